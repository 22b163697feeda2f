import { Value } from 'typebox/value';
import { compileLine } from '../line/compile.ts';
import { LineSpec } from '../model/line.ts';
import { FitResult } from '../model/calibration.ts';

const LINE = 'lucky-needle/line';
const CALIBRATION = 'lucky-needle/calibration';

/** A line as JSON that reads back to the same line. */
export function writeLineJson(line: LineSpec): string {
  return JSON.stringify({ format: LINE, version: 1, line }, null, 2);
}

/** @returns the line, or a sentence that says what is wrong with the text */
export function readLineJson(text: string, sampleRateHz: number): LineSpec | string {
  const found = read(text, LINE);
  if (typeof found === 'string') return found;
  const fault = faultOf(LineSpec, found['line']);
  if (fault) return `The line cannot be used: ${fault}.`;
  const line = found['line'] as LineSpec;
  try {
    compileLine(line, { sampleRateHz });
  } catch (error) {
    if (error instanceof RangeError) return `The line cannot be used: ${error.message}`;
    throw error;
  }
  return line;
}

/** A fitted calibration as JSON: constants with covariance, residuals, validity. */
export function writeCalibrationJson(
  result: FitResult,
  facts: Readonly<Record<string, string | number>>,
): string {
  return JSON.stringify({ format: CALIBRATION, version: 1, facts, result }, null, 2);
}

/** @returns the calibration, or a sentence that says what is wrong with the text */
export function readCalibrationJson(text: string): FitResult | string {
  const found = read(text, CALIBRATION);
  if (typeof found === 'string') return found;
  const fault = faultOf(FitResult, found['result']);
  return fault ? `The calibration cannot be used: ${fault}.` : (found['result'] as FitResult);
}

function read(text: string, format: string): Record<string, unknown> | string {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return 'This text is not valid JSON. Choose a file exported from Lucky Needle.';
  }
  if (typeof value !== 'object' || value === null || (value as { format?: unknown }).format !== format)
    return `This file is not of type “${format}”. Choose a file exported from Lucky Needle.`;
  const { version } = value as { version?: unknown };
  if (version !== 1)
    return `This file has version ${JSON.stringify(version)}, but this version of Lucky Needle only reads version 1. Update Lucky Needle.`;
  return value as Record<string, unknown>;
}

function faultOf(schema: typeof LineSpec | typeof FitResult, value: unknown): string | null {
  if (Value.Check(schema, value)) return null;
  const [first] = Value.Errors(schema, value);
  return first ? `${first.instancePath || '/'} ${first.message}` : 'unknown structure';
}
