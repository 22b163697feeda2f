import { SaxesParser } from 'saxes';
import { isoSeconds, isoTime } from '../units/dates.ts';
import { parseDecimal } from './parseDecimal.ts';
import { fileTimes } from './fileTimes.ts';
import { type TableReader, type TableSink } from './tableSink.ts';

/** Columns of a track point, in this order. */
export const TRACK_COLUMNS = [
  { name: 'latitude', unit: 'deg' },
  { name: 'longitude', unit: 'deg' },
  { name: 'altitude', unit: 'm' },
] as const;

/** Deeper than any track goes, and longer than any of its texts. */
const DEEPEST = 50;
const LONGEST_TEXT = 1000;
/** Characters that the parser is given at once. */
const BIT = 4096;

/** Reads the track points of a GPX 1.1 file, piece by piece. A point without time or position is an issue. */
export function gpxReader(sink: TableSink): TableReader {
  const parser = new SaxesParser();
  const times = fileTimes(sink);
  let point: { latitude: number; longitude: number; altitude: number; time: string } | null = null;
  let text = '';
  let row = 0;
  let broken = false;
  /** How deep the parser is, and how deep the point began: what lies deeper is not the point's own. */
  let depth = 0;
  let pointDepth = 0;
  sink.columns(TRACK_COLUMNS);
  parser.on('error', (error) => {
    if (!broken)
      sink.issue({ code: 'not-xml', row, text: `After point ${row}: ${error.message.slice(0, 200)}` });
    broken = true;
  });
  parser.on('opentag', ({ name, attributes }) => {
    text = '';
    depth++;
    if (depth > DEEPEST && !broken) {
      broken = true;
      return sink.issue({
        code: 'too-deep',
        row,
        text: `After point ${row}: too many nested elements (${DEEPEST}); this is not a track.`,
      });
    }
    if (name !== 'trkpt' || point) return;
    row++;
    pointDepth = depth;
    point = {
      latitude: parseDecimal(attributes['lat']),
      longitude: parseDecimal(attributes['lon']),
      altitude: Number.NaN,
      time: '',
    };
  });
  parser.on('text', (piece) => {
    if (text.length < LONGEST_TEXT) text += piece;
  });
  parser.on('closetag', ({ name }) => {
    const at = depth--;
    if (!point || broken) return;
    if (at === pointDepth + 1 && name === 'ele') point.altitude = parseDecimal(text);
    if (at === pointDepth + 1 && name === 'time') point.time = text;
    if (at !== pointDepth) return;
    const { latitude, longitude, altitude, time } = point;
    point = null;
    const timeS = isoSeconds(time);
    if (!(Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180))
      return sink.issue({
        code: 'no-position',
        row,
        text: `Point ${row}: latitude or longitude is missing or out of range.`,
      });
    if (Number.isNaN(timeS))
      return sink.issue({
        code: 'no-time',
        row,
        text: `Point ${row}: “${time.slice(0, 40)}” is not a valid time.`,
      });
    times.take(row, timeS, [latitude, longitude, altitude]);
  });
  const feed = (action: () => void) => {
    if (!broken) action();
  };
  return {
    push(piece) {
      // In bits, so that a file that has turned out to be none is not read to its end.
      for (let at = 0; at < piece.length && !broken; at += BIT) parser.write(piece.slice(at, at + BIT));
    },
    finish() {
      feed(() => parser.close());
      times.finish();
    },
  };
}

const escape = (s: string) => s.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** A GPX 1.1 file of one track, piece by piece: heading, points, ending. */
export const gpxWriter = (name: string) => ({
  heading: () => `<?xml version="1.0" encoding="UTF-8"?>
<gpx version="1.1" creator="Lucky Needle" xmlns="http://www.topografix.com/GPX/1/1"><trk><name>${escape(name)}</name><trkseg>
`,
  /**
   * @param values latitude, longitude in degrees, altitude in metres (NaN when not known)
   * @returns nothing for a reading without position: a track has no points without one
   */
  point(timeS: number, [latitude, longitude, altitude]: readonly number[]): string {
    if (!Number.isFinite(latitude) || !Number.isFinite(longitude)) return '';
    const ele = Number.isFinite(altitude) ? `<ele>${altitude}</ele>` : '';
    return `<trkpt lat="${latitude}" lon="${longitude}">${ele}<time>${isoTime(timeS)}</time></trkpt>\n`;
  },
  ending: () => '</trkseg></trk></gpx>\n',
});
