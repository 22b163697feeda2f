import type {
  BetweenAnswer,
  BetweenBody,
  ChannelCount,
  CompareAnswer,
  CompareBody,
  CountAnswer,
  CountBody,
  LookAnswer,
  LookBody,
  LookedAt,
  PassesAnswer,
  PassesBody,
  RecordingReadings,
  ShapeAnswer,
  ShapeBody,
  StepsAnswer,
  StepsBody,
  StretchesAnswer,
  StretchesBody,
} from '@lucky-needle/core/model';
import { problemOf } from './problemOf.ts';

/** Between two questions how far readings are worked out. */
const AGAIN_MS = 150;

/** Asks for readings of a recording; the server is asked again until they are worked out. */
export async function lookAtRecording(
  recordingId: string,
  body: LookBody,
  signal: AbortSignal,
  told: (share: number) => void = () => undefined,
): Promise<LookedAt[]> {
  for (;;) {
    const answer = await ask<LookAnswer>(recordingId, 'look', body, signal);
    if ('looks' in answer) return answer.looks;
    told(answer.share);
    await new Promise((done) => setTimeout(done, AGAIN_MS));
  }
}

/** Asks what counts in a recording; the server is asked again until it is worked out. */
export async function countRecording(
  recordingId: string,
  body: CountBody,
  signal: AbortSignal,
  told: (share: number) => void = () => undefined,
): Promise<ChannelCount[]> {
  for (;;) {
    const answer = await ask<CountAnswer>(recordingId, 'count', body, signal);
    if ('channels' in answer) return answer.channels;
    told(answer.share);
    await new Promise((done) => setTimeout(done, AGAIN_MS));
  }
}

export const readBetween = (recordingId: string, body: BetweenBody, signal: AbortSignal) =>
  ask<BetweenAnswer>(recordingId, 'between', body, signal);

export const findStretches = (recordingId: string, body: StretchesBody, signal: AbortSignal) =>
  ask<StretchesAnswer>(recordingId, 'stretches', body, signal);

export const shapeOfStretch = (recordingId: string, body: ShapeBody, signal: AbortSignal) =>
  ask<ShapeAnswer>(recordingId, 'shape', body, signal);

export const loadSteps = (recordingId: string, body: StepsBody, signal: AbortSignal) =>
  ask<StepsAnswer>(recordingId, 'steps', body, signal);

export const compareLines = (recordingId: string, body: CompareBody, signal: AbortSignal) =>
  ask<CompareAnswer>(recordingId, 'compare', body, signal);

export const findPassing = (recordingId: string, body: PassesBody, signal: AbortSignal) =>
  ask<PassesAnswer>(recordingId, 'passes', body, signal);

/** What is drawn, as numbers: null is NaN, which breaks a curve. */
export function curveOf({ times, values }: Pick<LookedAt, 'times' | 'values'>) {
  const numbers = (list: readonly (number | null)[]) => Float64Array.from(list, (v) => v ?? Number.NaN);
  return { times: numbers(times), values: numbers(values) };
}

/** Mean of a channel over a whole recording, in the unit of its readings; null where it has none. */
export async function meanOfRecording(recordingId: string, channelId: string): Promise<number | null> {
  const response = await fetch(
    `/api/recordings/${recordingId}/readings?channel=${encodeURIComponent(channelId)}&points=2`,
  );
  return (await answered<RecordingReadings>(response)).mean;
}

async function ask<T>(recordingId: string, what: string, body: object, signal: AbortSignal): Promise<T> {
  const response = await fetch(`/api/recordings/${recordingId}/${what}`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
    signal,
  });
  return answered<T>(response);
}

async function answered<T>(response: Response): Promise<T> {
  const text = await response.text();
  if (!response.ok) throw new Error(problemOf({ status: response.status, data: text })!.detail);
  return JSON.parse(text) as T;
}
