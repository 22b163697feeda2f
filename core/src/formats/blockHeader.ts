/** JSON that is one byte a letter. */
export function asciiJson(value: unknown): string {
  return JSON.stringify(value).replace(
    /[\u0080-\uffff]/g,
    (c) => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
}

/** A buffer that begins with u16 magic, u16 version, u32 header length and the header, padded to 8 bytes; `at` is where the rest begins. */
export function paddedJson(
  magic: number,
  json: string,
  restBytes: number,
): { readonly buffer: ArrayBuffer; readonly at: number } {
  const padded = Math.ceil(json.length / 8) * 8;
  const buffer = new ArrayBuffer(8 + padded + restBytes);
  const view = new DataView(buffer);
  view.setUint16(0, magic, true);
  view.setUint16(2, 1, true);
  view.setUint32(4, padded, true);
  const text = new Uint8Array(buffer, 8, padded).fill(32);
  for (let i = 0; i < json.length; i++) text[i] = json.charCodeAt(i);
  return { buffer, at: 8 + padded };
}
