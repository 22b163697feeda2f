import { unitNamed } from '../units/index.ts';
import { lineSplitter } from './lineSplitter.ts';
import { parseDecimal } from './parseDecimal.ts';
import { timeGuard, type TableColumn, type TableReader, type TableSink } from './tableSink.ts';

/** "temp: 21.4 C", "hum=40%", "t 1234" are pairs; a label starts with a letter. */
const PAIR =
  /([A-Za-z_][\w .-]*?)\s*[:=]\s*([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?|nan|-{1,2})\s*([^\s,;:=\d][^\s,;:=]*)?(?=$|[\s,;|])/g;
const TIME_LABEL = /^(ms|millis|t|time|ts|s|sec|seconds)$/i;

/**
 * Reads a console log of "label: value unit" pairs. Columns are those of the first line that has any; a later line with
 * other labels is an issue. Time is the pair "ms", "t" or the like; without one the line's number over the rate.
 * @param sampleRateHz used for lines without a time
 */
export function pairsLogReader(sampleRateHz: number, sink: TableSink): TableReader {
  let labels: string[] | null = null;
  let row = 0;
  let counted = 0;
  const inOrder = timeGuard(sink);
  const issue = (code: string, text: string) => sink.issue({ code, row, text: `Line ${row}: ${text}` });
  const split = lineSplitter((line) => {
    row++;
    if (line.trim() === '') return;
    const pairs = [...line.matchAll(PAIR)].map(([, label, value, unit]) => ({
      label: label!.trim(),
      value: value!,
      unit,
    }));
    if (pairs.length === 0) return issue('no-pairs', `no "label: value" in "${line.slice(0, 40)}".`);
    const time = pairs.find((p) => TIME_LABEL.test(p.label));
    const data = pairs.filter((p) => p !== time);
    if (!labels) {
      labels = data.map((p) => p.label);
      sink.columns(
        data.map((p): TableColumn => ({ name: p.label, unit: (p.unit && unitNamed(p.unit)) || null })),
      );
    }
    if (labels.some((label) => !data.some((p) => p.label === label)))
      return issue(
        'wrong-columns',
        `has ${data.map((p) => p.label).join(', ')} instead of ${labels.join(', ')}.`,
      );
    const scale = time && /^(ms|millis)$/i.test(time.label) ? 1e-3 : 1;
    const timeS = time ? parseDecimal(time.value) * scale : counted / sampleRateHz;
    counted++;
    if (!Number.isFinite(timeS)) return issue('no-time', `the time "${time!.value}" is no number.`);
    if (inOrder(row, timeS))
      sink.row(
        timeS,
        labels.map((label) => parseDecimal(data.find((p) => p.label === label)!.value)),
      );
  }, 65536);
  return {
    push: split,
    finish: () => split('\n'),
  };
}
