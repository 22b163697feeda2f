import { unitNamed } from '../units/index.ts';
import { lineSplitter } from './lineSplitter.ts';
import { numberIn, pairsIn } from './pairs.ts';
import { fileTimes } from './fileTimes.ts';
import { type TableColumn, type TableReader, type TableSink } from './tableSink.ts';

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
  const times = fileTimes(sink);
  const issue = (code: string, text: string) => sink.issue({ code, row, text: `Line ${row}: ${text}` });
  const split = lineSplitter((line) => {
    row++;
    if (line.trim() === '') return;
    const pairs = pairsIn(line).flatMap(({ name, value, word }) => {
      const number = numberIn(value);
      const missing = { label: name, value: Number.NaN, unit: word, isNumber: true, text: value };
      if (number === null) return [missing];
      return [
        { ...missing, value: number.value, unit: number.unit || word, isNumber: !Number.isNaN(number.value) },
      ];
    });
    if (pairs.length === 0) return issue('no-pairs', `no “label: value” found in “${line.slice(0, 40)}”.`);
    const time = pairs.find((p) => TIME_LABEL.test(p.label));
    // Words are no measurements; a number that is none is only ignored where it never was a column.
    const data = pairs.filter((p) => p !== time && (p.isNumber || labels?.includes(p.label)));
    if (!labels) {
      if (data.length === 0) return issue('no-pairs', `no number after a label in “${line.slice(0, 40)}”.`);
      labels = data.map((p) => p.label);
      sink.columns(
        data.map((p): TableColumn => ({ name: p.label, unit: (p.unit && unitNamed(p.unit)) || null })),
      );
    }
    if (labels.some((label) => !data.some((p) => p.label === label)))
      return issue(
        'wrong-columns',
        `columns ${data.map((p) => p.label).join(', ')} instead of ${labels.join(', ')}.`,
      );
    const wrong = data.find((p) => !p.isNumber);
    if (wrong) return issue('not-a-number', `${wrong.label} is “${wrong.text.slice(0, 40)}”, not a number.`);
    const scale = time && /^(ms|millis)$/i.test(time.label) ? 1e-3 : 1;
    const timeS = time ? time.value * scale : counted / sampleRateHz;
    if (!Number.isFinite(timeS))
      return issue('no-time', `the time “${time!.text.slice(0, 40)}” is not a number.`);
    counted++;
    times.take(
      row,
      timeS,
      labels.map((label) => data.find((p) => p.label === label)!.value),
    );
  }, 65536);
  return {
    push: split,
    finish() {
      split('\n');
      times.finish();
    },
  };
}
