import { asciiJson, paddedJson } from './blockHeader.ts';

/** Samples on the wire and on the way to the browser: a small JSON header and 64-bit floats, never samples as JSON. */
export interface SampleBlock {
  readonly header: SampleBlockHeader;
  readonly times: Float64Array;
  readonly columns: readonly Float64Array[];
}

export interface SampleBlockHeader {
  readonly columns: readonly { readonly name: string; readonly unit: string }[];
  readonly count: number;
  /** Samples that each row stands for; above 1 rows come in pairs, lowest then highest. */
  readonly reducedBy: number;
  readonly gadgetId?: string;
  readonly recordingId?: string;
}

const MAGIC = 0x4e4c; // "LN", little-endian

/** Layout: u16 magic, u16 version, u32 header length, header as ASCII JSON padded with spaces to 8 bytes, times, columns. */
export function encodeSampleBlock(block: SampleBlock): ArrayBuffer {
  const { count } = block.header;
  const { buffer, at } = paddedJson(MAGIC, asciiJson(block.header), 8 * count * (1 + block.columns.length));
  [block.times, ...block.columns].forEach((values, k) => {
    new Float64Array(buffer, at + 8 * count * k, count).set(values.subarray(0, count));
  });
  return buffer;
}

/** @throws {RangeError} when the bytes are no sample block, or cut short */
export function decodeSampleBlock(buffer: ArrayBuffer): SampleBlock {
  const view = new DataView(buffer);
  if (buffer.byteLength < 8 || view.getUint16(0, true) !== MAGIC) {
    throw new RangeError('The samples received are not valid. Reload the page.');
  }
  const padded = view.getUint32(4, true);
  const text = String.fromCharCode(...new Uint8Array(buffer, 8, Math.min(padded, buffer.byteLength - 8)));
  const header = JSON.parse(text) as SampleBlockHeader;
  const expected = 8 + padded + 8 * header.count * (1 + header.columns.length);
  if (buffer.byteLength !== expected) {
    throw new RangeError(
      `Samples incomplete: ${buffer.byteLength} of ${expected} bytes received. Reload the page.`,
    );
  }
  const column = (k: number) => new Float64Array(buffer, 8 + padded + 8 * header.count * k, header.count);
  return { header, times: column(0), columns: header.columns.map((_, k) => column(k + 1)) };
}
