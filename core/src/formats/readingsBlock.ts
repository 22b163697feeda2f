import { asciiJson, paddedJson } from './blockHeader.ts';

/** Readings of several places of several lines, each with its own times: what the live bench sends to pages. */
export interface ReadingsBlock {
  readonly gadgetId: string;
  readonly parts: readonly ReadingsPart[];
}

export interface ReadingsPart {
  readonly channelId: string;
  /** After which stage: 1 after the first; the last one is the reading. */
  readonly stage: number;
  readonly times: Float64Array;
  readonly values: Float64Array;
  /** Why a value is NaN; 0 when it is good. */
  readonly reasons: Float64Array;
}

const MAGIC = 0x524e; // "NR", little-endian

/** Layout: u16 magic, u16 version, u32 header length, header as ASCII JSON padded to 8 bytes; times, values and reasons of each part. */
export function encodeReadings({ gadgetId, parts }: ReadingsBlock): ArrayBuffer {
  const json = asciiJson({
    gadgetId,
    parts: parts.map(({ channelId, stage, times }) => ({ channelId, stage, count: times.length })),
  });
  const numbers = parts.reduce((sum, p) => sum + 3 * p.times.length, 0);
  const { buffer, at } = paddedJson(MAGIC, json, 8 * numbers);
  let to = at;
  for (const { times, values, reasons } of parts)
    for (const column of [times, values, reasons]) {
      new Float64Array(buffer, to, column.length).set(column);
      to += 8 * column.length;
    }
  return buffer;
}

/** Whether bytes are such a block. */
export const isReadings = (buffer: ArrayBuffer): boolean =>
  buffer.byteLength >= 8 && new DataView(buffer).getUint16(0, true) === MAGIC;

/** @throws {RangeError} when the bytes are no such block, or cut short */
export function decodeReadings(buffer: ArrayBuffer): ReadingsBlock {
  if (!isReadings(buffer)) throw new RangeError('The readings received are not valid. Reload the page.');
  const padded = new DataView(buffer).getUint32(4, true);
  const text = String.fromCharCode(...new Uint8Array(buffer, 8, Math.min(padded, buffer.byteLength - 8)));
  const header = JSON.parse(text) as {
    gadgetId: string;
    parts: { channelId: string; stage: number; count: number }[];
  };
  let at = 8 + padded;
  const expected = at + header.parts.reduce((sum, p) => sum + 24 * p.count, 0);
  if (buffer.byteLength !== expected)
    throw new RangeError(
      `Readings incomplete: ${buffer.byteLength} of ${expected} bytes received. Reload the page.`,
    );
  const column = (count: number) => {
    const values = new Float64Array(buffer, at, count);
    at += 8 * count;
    return values;
  };
  return {
    gadgetId: header.gadgetId,
    parts: header.parts.map(({ channelId, stage, count }) => ({
      channelId,
      stage,
      times: column(count),
      values: column(count),
      reasons: column(count),
    })),
  };
}
