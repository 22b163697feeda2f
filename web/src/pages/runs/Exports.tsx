import type { Recording } from '@lucky-needle/core/model';

const FORMATS = [
  ['csv', 'CSV, raw and readings'],
  ['tsv', 'Tabs, decimal comma'],
  ['ndjson', 'JSON, a line a reading'],
  ['senml', 'SenML'],
  ['wav', 'WAV, raw columns'],
  ['package', 'Data package, with line and calibrations'],
  ['meta', 'How its readings were made'],
] as const;

const TRACKS = [
  ['gpx', 'GPX track'],
  ['nmea', 'Position sentences'],
] as const;

/** Files that a run can leave as. */
export function Exports({ recording }: { recording: Recording }) {
  const named = new Set(recording.columns.map((c) => c.name.toLowerCase()));
  const formats = named.has('latitude') && named.has('longitude') ? [...FORMATS, ...TRACKS] : FORMATS;
  return (
    <details className="dropdown dropdown-end">
      <summary className="btn btn-sm">Export</summary>
      <ul className="dropdown-content menu z-10 w-72 rounded-box border border-base-300 bg-base-100 p-1 shadow-lg">
        {formats.map(([format, title]) => (
          <li key={format}>
            <a href={`/api/recordings/${recording.id}/export/${format}`} download>
              {title}
            </a>
          </li>
        ))}
      </ul>
    </details>
  );
}
