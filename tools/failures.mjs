// What failed, from the runners' own reports: told again at the very end, where what is cut off of a long log still shows it.

const LONGEST = 1500;

// eslint-disable-next-line no-control-regex -- runners colour what they say
const plain = (text) => String(text ?? '').replace(/\u001b\[[0-9;]*m/g, '');
const cut = (text) => (text.length > LONGEST ? `${text.slice(0, LONGEST)} …` : text);

/** Of a report of unit tests: file, name and message of each that failed, and of files that did not run. */
export const ofUnits = (report) =>
  report.testResults.flatMap(({ name, status, message, assertionResults }) => {
    const failed = assertionResults.filter((a) => a.status === 'failed');
    if (failed.length === 0) return status === 'failed' ? [`${name}\n${cut(plain(message))}`] : [];
    return failed.map((a) => `${name}: ${a.fullName}\n${cut(plain(a.failureMessages.join('\n')))}`);
  });

/** Of a report of browser tests, whose suites lie in each other. */
export const ofBrowser = ({ suites = [] }) =>
  suites.flatMap((suite) => [
    ...ofBrowser(suite),
    ...(suite.specs ?? [])
      .filter(({ ok }) => !ok)
      .map(({ file, line, title, tests }) => {
        const errors = tests.flatMap(({ results }) => results.flatMap((r) => r.errors ?? []));
        return `${file}:${line}: ${title}\n${cut(plain(errors.map((e) => e.message).join('\n')))}`;
      }),
  ]);
