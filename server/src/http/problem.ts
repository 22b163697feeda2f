import type { Problem } from '@lucky-needle/core/model';

/** An error with an answer for the maker: what is wrong, where, and the way out (RFC 9457). */
export class ProblemError extends Error {
  override readonly name = 'ProblemError';
  readonly problem: Problem;
  constructor(status: number, code: string, title: string, detail: string, wayOut: string, field?: string) {
    super(detail);
    this.problem = {
      type: `/problems/${code}`,
      title,
      status,
      detail,
      code,
      wayOut,
      ...(field ? { field } : {}),
    };
  }
}

/** The same error where it went over to another thread as plain data. */
export function problemFrom({ status, code, title, detail, wayOut, field }: Problem): ProblemError {
  return new ProblemError(status, code, title, detail, wayOut, field);
}

export const notFound = (what: string, id: string) =>
  new ProblemError(
    404,
    'not-found',
    'Not found',
    `There is no ${what} "${id}".`,
    'It may have been deleted. Go back to Workshop.',
  );

export const staleVersion = (sent: string, now: number) =>
  new ProblemError(
    412,
    'stale-version',
    'Changed elsewhere',
    `This was changed in another window: you edited version ${sent}, but version ${now} is the latest.`,
    'Apply your change to the latest version. What you typed is still in the form.',
  );

/** Turns what the database or the disk says into a problem; other errors come back as they are. */
export function databaseProblem(error: unknown): unknown {
  const code = (error as { code?: string }).code ?? '';
  if (code.startsWith('SQLITE_BUSY') || code.startsWith('SQLITE_LOCKED')) {
    return new ProblemError(
      503,
      'database-busy',
      'Database busy',
      'Another program is using the database.',
      'Close the other program. The server will try again automatically.',
    );
  }
  if (code.startsWith('SQLITE_FULL') || code === 'ENOSPC') {
    return new ProblemError(
      507,
      'disk-full',
      'Disk full',
      'There is not enough disk space.',
      'Free some space and try again. Stored data is not affected.',
    );
  }
  if (
    code.startsWith('SQLITE_READONLY') ||
    code.startsWith('SQLITE_IOERR') ||
    code.startsWith('SQLITE_CANTOPEN')
  ) {
    return new ProblemError(
      503,
      'database-unwritable',
      'Cannot write to the database',
      `The database reported ${code}.`,
      'Check that the data folder exists and is writable, then try again.',
    );
  }
  return error;
}
