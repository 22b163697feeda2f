import { Value } from 'typebox/value';
import { OwnLine } from '../model/line.ts';
import { compileLine } from './compile.ts';
import { stageKind } from './registry.ts';
import { LineError } from '../stage/contract.ts';

const FORM = 'signal line';

/** A line as a file of its own: what it is, then its sources and stages. */
export const lineToJson = (line: OwnLine): string =>
  `${JSON.stringify({ form: FORM, version: 1, line }, null, 2)}\n`;

/**
 * The line of a file, on the columns of a present one where they are of the same units.
 * @returns the line, or a sentence that says what is wrong and the way out
 */
export function lineFromJson(text: string, present: OwnLine, sampleRateHz: number): OwnLine | string {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return `This is not valid JSON: ${(error as Error).message}. Export a line to see the file format.`;
  }
  const file = value as { form?: unknown; line?: unknown } | null;
  if (file?.form !== FORM || typeof file.line !== 'object')
    return `The file must contain “${FORM}” as “form” and the line under “line”. Export a line to see the file format.`;
  const [error] = Value.Errors(OwnLine, file.line);
  if (error) return `The line in the file is incomplete: ${error.instancePath || 'it'} ${error.message}.`;
  const line = Value.Clone(file.line) as OwnLine;
  const unknown = line.stages.find((s) => !stageKind(s.kind));
  if (unknown) return `The file contains an unknown stage “${unknown.kind}”. Remove it from the file.`;
  const units = (l: OwnLine) => l.sources.map((s) => s.unit).join();
  if (units(line) !== units(present))
    return `The line in the file needs ${units(line)}, but this channel has ${units(present)}. Import it for a channel with the same unit.`;
  const placed: OwnLine = { ...line, sources: present.sources };
  try {
    compileLine(placed, { sampleRateHz });
  } catch (failure) {
    if (failure instanceof LineError || failure instanceof RangeError)
      return `The line in the file does not work here: ${failure.message}`;
    throw failure;
  }
  return placed;
}
