/** Hands a text to the browser as a file to save. */
export function saveText(name: string, type: string, text: string): void {
  const url = URL.createObjectURL(new Blob([text], { type: `${type};charset=utf-8` }));
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
  // The download has its own hold on the data by the next turn.
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
