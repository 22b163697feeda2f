/** A text field: what a spreadsheet could take for a formula gets a leading apostrophe; the rest is quoted when needed. */
export function csvField(text: string, delimiter = ','): string {
  const safe = /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
  return safe.includes(delimiter) || /["\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
