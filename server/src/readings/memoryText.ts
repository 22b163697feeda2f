// A memory is stored as JSON: what comes back from a file, perhaps of another maker, is then never more than data.

const ARRAYS = { f64: Float64Array, i32: Int32Array, u8: Uint8Array } as const;
type ArrayName = keyof typeof ARRAYS;

/** JSON of plain data that may hold typed arrays and numbers that JSON has no word for. */
export function memoryToText(memory: unknown): string {
  return JSON.stringify(memory, (_key, value: unknown) => {
    if (typeof value === 'number' && !Number.isFinite(value)) return { number: String(value) };
    for (const [name, Kind] of Object.entries(ARRAYS))
      if (value instanceof Kind)
        return { [name]: Buffer.from(value.buffer, value.byteOffset, value.byteLength).toString('base64') };
    return value;
  });
}

/** @throws {SyntaxError} for text that is no JSON */
export function memoryFromText(text: string): unknown {
  return JSON.parse(text, (_key, value: unknown) => {
    if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
    const entries = Object.entries(value);
    if (entries.length !== 1) return value;
    const [name, held] = entries[0]!;
    if (typeof held !== 'string') return value;
    if (name === 'number') return Number(held);
    if (!Object.hasOwn(ARRAYS, name)) return value;
    const bytes = new Uint8Array(Buffer.from(held, 'base64'));
    return new ARRAYS[name as ArrayName](bytes.buffer);
  });
}
