import {
  delimitedReader,
  fileTimes,
  gpxReader,
  ndjsonReader,
  nmeaReader,
  pairsLogReader,
  senmlReader,
  senmlUnit,
  wavReader,
  type DetectedFile,
  type TableColumn,
  type TableSink,
} from '@lucky-needle/core/formats';
import type { RowIssue } from '@lucky-needle/core/model';

export interface ByteReader {
  /** Takes what it needs: the bytes may be overwritten afterwards. */
  push(bytes: Uint8Array): void;
  finish(): void;
}

const LONGEST_TEXT = 300;

/** A reader of a file's bytes that gives rows to a sink, whatever the format; of a package, those of its table. */
export function tableReader(
  { format, plan }: DetectedFile,
  told: TableSink,
  { sampleRateHz, nowS }: { readonly sampleRateHz: number; readonly nowS: number },
): ByteReader {
  // What a file says of itself may be of any length: what is told of it is not.
  const sink: TableSink = {
    ...told,
    issue: (issue) =>
      told.issue(
        issue.text.length > LONGEST_TEXT
          ? { ...issue, text: `${issue.text.slice(0, LONGEST_TEXT)}…` }
          : issue,
      ),
  };
  const ofText = (reader: { push(piece: string): void; finish(): void }): ByteReader => {
    const decoder = new TextDecoder();
    return {
      push: (bytes) => reader.push(decoder.decode(bytes, { stream: true })),
      finish() {
        reader.push(decoder.decode());
        reader.finish();
      },
    };
  };
  switch (format) {
    case 'delimited':
    case 'package':
      return delimitedReader(plan!, sink);
    case 'log':
      return ofText(pairsLogReader(sampleRateHz, sink));
    case 'json-lines':
      return ofText(ndjsonReader(sink));
    case 'sentences':
      return ofText(nmeaReader(sink));
    case 'track':
      return ofText(gpxReader(sink));
    case 'senml':
      return ofText(senmlTable(nowS, sink));
    case 'wav':
      return wavTable(sink);
  }
}

/** Records of one instant become one row, with a column for each name; a name that comes later gets its column then. */
function senmlTable(nowS: number, sink: TableSink) {
  const columns: TableColumn[] = [];
  let at: number | null = null;
  let row = new Map<string, number>();
  const times = fileTimes(sink);
  let rows = 0;
  const give = () => {
    if (at !== null)
      times.take(
        ++rows,
        at,
        columns.map((c) => row.get(c.name) ?? Number.NaN),
      );
    row = new Map();
  };
  const reader = senmlReader(
    nowS,
    ({ name, unit, timeS, value }) => {
      if (!columns.some((c) => c.name === name)) {
        columns.push({ name, unit: senmlUnit(unit) });
        sink.columns(columns);
      }
      if (at !== null && timeS !== at) give();
      at = timeS;
      row.set(name, value);
    },
    (issue: RowIssue) => sink.issue(issue),
  );
  return {
    push: (piece: string) => reader.push(piece),
    finish() {
      reader.finish();
      give();
      times.finish();
    },
  };
}

function wavTable(sink: TableSink): ByteReader {
  let channels = 1;
  let rateHz = 1;
  let n = 0;
  return wavReader({
    format(format) {
      channels = format.channels;
      rateHz = format.sampleRateHz;
      sink.columns(Array.from({ length: channels }, (_, k) => ({ name: `channel ${k + 1}`, unit: null })));
    },
    samples(values) {
      for (let i = 0; i + channels <= values.length; i += channels)
        sink.row(
          n++ / rateHz,
          Array.from({ length: channels }, (_, k) => values[i + k]!),
        );
    },
    issue: (code, text) => sink.issue({ code, row: n, text }),
  });
}
