import type { Problem } from '@lucky-needle/core/model';

/** What went wrong, as the server told it or, when it could not be reached, in our own words. Null without an error. */
export function problemOf(error: unknown): Problem | null {
  if (!error) return null;
  const { data, status } = error as { data?: unknown; status?: number | string };
  if (data && typeof data === 'object' && 'code' in data) return data as Problem;
  const parsed = typeof data === 'string' ? parseProblem(data) : null;
  if (parsed) return parsed;
  return {
    type: '/problems/unreachable',
    title: 'Can’t reach the server',
    status: typeof status === 'number' ? status : 0,
    detail: 'The server is not responding.',
    code: 'unreachable',
    wayOut: 'Check that it is still running. The page keeps retrying.',
  };
}

function parseProblem(text: string): Problem | null {
  try {
    const value: unknown = JSON.parse(text);
    return value && typeof value === 'object' && 'code' in value ? (value as Problem) : null;
  } catch {
    return null;
  }
}
