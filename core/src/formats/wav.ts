import type { TableReader } from './tableSink.ts';

export interface WavFormat {
  readonly channels: number;
  readonly sampleRateHz: number;
  readonly bits: number;
  readonly float: boolean;
}

export interface WavSink {
  format(format: WavFormat): void;
  /** Interleaved samples, -1 to 1 for integer formats. */
  samples(values: Float64Array): void;
  issue(code: string, text: string): void;
}

type State = 'riff' | 'chunk' | 'data' | 'skip' | 'failed';

/** Reads WAV (RIFF): PCM of 8, 16, 24, 32 bits and floats of 32, 64 bits, piece by piece; unknown chunks are ignored. */
export function wavReader(sink: WavSink): TableReader<Uint8Array> {
  let rest = new Uint8Array(0);
  let state = 'riff' as State;
  let left = 0;
  let format: WavFormat | null = null;
  const fail = (code: string, text: string) => {
    state = 'failed';
    sink.issue(code, text);
  };
  const ascii = (bytes: Uint8Array, at: number) => String.fromCharCode(...bytes.subarray(at, at + 4));

  /** Handles what can be handled; returns how many bytes were used, 0 when more are needed. */
  function step(bytes: Uint8Array): number {
    const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
    if (state === 'riff') {
      if (bytes.length < 12) return 0;
      if (ascii(bytes, 0) !== 'RIFF' || ascii(bytes, 8) !== 'WAVE') {
        fail('not-wav', 'This is not a WAV file (RIFF … WAVE is missing at the start).');
        return bytes.length;
      }
      state = 'chunk';
      return 12;
    }
    if (state === 'chunk') {
      if (bytes.length < 8) return 0;
      const id = ascii(bytes, 0);
      const size = view.getUint32(4, true);
      if (id === 'fmt ') {
        if (bytes.length < 8 + size) return 0;
        readFormat(view, size);
        return Math.min(bytes.length, 8 + size + (size % 2));
      }
      if (id === 'data' && !format) {
        fail('no-format', 'Samples start before the format is given.');
        return bytes.length;
      }
      left = size;
      state = id === 'data' ? 'data' : 'skip';
      if (state === 'skip') left += size % 2;
      return 8;
    }
    if (state === 'skip') {
      const used = Math.min(left, bytes.length);
      left -= used;
      if (left === 0) state = 'chunk';
      return used;
    }
    const width = (format!.bits / 8) * format!.channels;
    const frames = Math.floor(Math.min(left, bytes.length) / width);
    if (frames === 0) {
      if (left >= width) return 0;
      // Less than a frame is left: padding.
      state = 'skip';
      return 0;
    }
    sink.samples(decode(view, frames * format!.channels, format!));
    left -= frames * width;
    if (left === 0) state = 'chunk';
    return frames * width;
  }

  function readFormat(view: DataView, size: number): void {
    const tag = view.getUint16(8, true);
    // An extensible format tells its kind in the first two bytes of its identifier.
    const kind = tag === 0xfffe && size >= 40 ? view.getUint16(32, true) : tag;
    const bits = view.getUint16(22, true);
    const float = kind === 3;
    if (!((kind === 1 && [8, 16, 24, 32].includes(bits)) || (float && [32, 64].includes(bits))))
      return fail(
        'unknown-format',
        `Samples of type ${kind} with ${bits} bits are not supported. Save the file as 16-bit PCM.`,
      );
    const told = { channels: view.getUint16(10, true), sampleRateHz: view.getUint32(12, true), bits, float };
    if (told.channels < 1 || told.sampleRateHz < 1)
      return fail('broken', 'The file gives no channels or no sampling rate.');
    if (format) {
      // The times of what came so far are counted by the first.
      if (JSON.stringify(told) !== JSON.stringify(format))
        fail(
          'another-format',
          `A second format (${told.channels} channels at ${told.sampleRateHz} Hz) starts here; samples after it are skipped.`,
        );
      return;
    }
    format = told;
    sink.format(format);
  }

  return {
    push(piece) {
      if (state === 'failed') return;
      const bytes = new Uint8Array(rest.length + piece.length);
      bytes.set(rest);
      bytes.set(piece, rest.length);
      let at = 0;
      for (;;) {
        const before: State = state;
        const used = step(bytes.subarray(at));
        at += used;
        if ((state as State) === 'failed' || (used === 0 && state === before) || at >= bytes.length) break;
      }
      rest = bytes.slice(at);
    },
    finish() {
      if (state === 'data' && left > 0)
        sink.issue('cut-short', `The file is cut short: ${left} bytes of samples are missing.`);
      else if (state === 'riff') sink.issue('not-wav', 'The file is too short for a WAV file.');
    },
  };
}

function decode(view: DataView, count: number, { bits, float }: WavFormat): Float64Array {
  const out = new Float64Array(count);
  const width = bits / 8;
  for (let i = 0; i < count; i++) {
    const at = i * width;
    if (float) out[i] = bits === 32 ? view.getFloat32(at, true) : view.getFloat64(at, true);
    else if (bits === 8) out[i] = (view.getUint8(at) - 128) / 128;
    else if (bits === 16) out[i] = view.getInt16(at, true) / 32768;
    else if (bits === 24) out[i] = ((view.getInt8(at + 2) << 16) | view.getUint16(at, true)) / 8388608;
    else out[i] = view.getInt32(at, true) / 2147483648;
  }
  return out;
}

/**
 * The first 44 bytes of a WAV file of 64-bit floats, which hold any reading exactly; samples follow, by wavSamples.
 * @throws {RangeError} for no channel, a rate that is no whole number, or more than 4 GB
 */
export function wavHeader(frames: number, channels: number, sampleRateHz: number): Uint8Array {
  if (channels < 1) throw new RangeError('A WAV file needs at least one channel.');
  if (!Number.isInteger(sampleRateHz) || sampleRateHz < 1)
    throw new RangeError(
      `The sampling rate of a WAV file must be a whole number of hertz; received ${sampleRateHz}. Resample or use another format.`,
    );
  const size = 8 * frames * channels;
  if (size > 0xfffffff0 - 36)
    throw new RangeError(
      `A WAV file can hold at most 4 GB; this run needs ${size} bytes. Export it in parts.`,
    );
  const bytes = new Uint8Array(44);
  const view = new DataView(bytes.buffer);
  const text = (at: number, s: string) => [...s].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)));
  text(0, 'RIFF');
  view.setUint32(4, 36 + size, true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 3, true);
  view.setUint16(22, channels, true);
  view.setUint32(24, sampleRateHz, true);
  view.setUint32(28, sampleRateHz * 8 * channels, true);
  view.setUint16(32, 8 * channels, true);
  view.setUint16(34, 64, true);
  text(36, 'data');
  view.setUint32(40, size, true);
  return bytes;
}

/** A piece of samples behind the header. @param columns one for each channel, equally long */
export function wavSamples(columns: readonly Float64Array[]): Uint8Array {
  const n = columns[0]?.length ?? 0;
  if (columns.some((c) => c.length !== n)) throw new RangeError('All channels must have the same length.');
  const bytes = new Uint8Array(8 * n * columns.length);
  const view = new DataView(bytes.buffer);
  let at = 0;
  for (let i = 0; i < n; i++)
    for (const column of columns) {
      view.setFloat64(at, column[i]!, true);
      at += 8;
    }
  return bytes;
}

/** A whole WAV file in one piece. */
export function writeWav(columns: readonly Float64Array[], sampleRateHz: number): Uint8Array {
  const samples = wavSamples(columns);
  const header = wavHeader(columns[0]?.length ?? 0, columns.length, sampleRateHz);
  const bytes = new Uint8Array(header.length + samples.length);
  bytes.set(header);
  bytes.set(samples, header.length);
  return bytes;
}
