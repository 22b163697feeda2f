import type { Request } from 'express';
import { Type, type TSchema } from 'typebox';
import { ProblemError } from '../http/problem.ts';

export interface Page {
  readonly limit: number;
  readonly offset: number;
}

/** Reads ?limit= (1 to 200, 50 unless said) and ?offset=. */
export function pageOf(request: Request<Record<string, string>>): Page {
  const limit = numberOf(request, 'limit', 50);
  const offset = numberOf(request, 'offset', 0);
  if (!Number.isInteger(limit) || limit < 1 || limit > 200 || !Number.isInteger(offset) || offset < 0) {
    throw new ProblemError(
      422,
      'invalid-query',
      'Invalid query',
      'limit must be from 1 to 200, and offset 0 or more.',
      'Correct the URL.',
      'limit',
    );
  }
  return { limit, offset };
}

/** A number from the query string. @throws {ProblemError} when it is given but is no number */
export function numberOf(request: Request<Record<string, string>>, name: string, fallback: number): number {
  const text = request.query[name];
  if (text === undefined) return fallback;
  const value = typeof text === 'string' && text.trim() !== '' ? Number(text) : Number.NaN;
  if (!Number.isFinite(value)) {
    throw new ProblemError(
      422,
      'invalid-query',
      'Invalid query',
      `${name} must be a number; received "${String(text)}".`,
      'Correct the URL.',
      name,
    );
  }
  return value;
}

/** A word from the address. @throws {ProblemError} 422 when it is not given */
export function textOf(request: Request<Record<string, string>>, name: string): string {
  const text = request.query[name];
  if (typeof text === 'string' && text !== '') return text;
  throw new ProblemError(
    422,
    'invalid-query',
    'Invalid query',
    `${name} is missing.`,
    `Add ?${name}=… to the URL.`,
    name,
  );
}

/** A page of a list, and how many there are in all. */
export const listOf = (item: TSchema) =>
  Type.Object({ items: Type.Array(item), total: Type.Integer() }, { additionalProperties: false });

/** The version that was edited. @throws {ProblemError} 428 when it is not given */
export function ifMatch(request: Request<Record<string, string>>): string {
  const header = request.headers['if-match'];
  const version = /^(?:W\/)?"(\d+)"$/.exec(header ?? '')?.[1];
  if (version === undefined) {
    throw new ProblemError(
      428,
      'version-needed',
      'Version required',
      'The change does not include the version it is based on.',
      'Send the version in an If-Match header, in double quotes.',
    );
  }
  return version;
}
