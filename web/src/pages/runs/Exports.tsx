import type { Recording } from '@lucky-needle/core/model';

const FORMATS = [
  ['csv', 'CSV, raw columns and readings'],
  ['tsv', 'Tab-separated, decimal comma'],
  ['ndjson', 'JSON Lines, one reading per line'],
  ['senml', 'SenML'],
  ['wav', 'WAV, raw columns'],
  ['package', 'Data package, with line and calibrations'],
  ['meta', 'Metadata: how the readings were made'],
] as const;

const TRACKS = [
  ['gpx', 'GPX track'],
  ['nmea', 'NMEA sentences (position)'],
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
