/**
 * Cuts a stream of text pieces into lines. A piece may end anywhere; the unfinished rest waits, up to a limit, after
 * which it is given out as one (too long) line so that a flood without line ends cannot fill the memory.
 */
export function lineSplitter(onLine: (line: string) => void, limit = 4096): (piece: string) => void {
  let rest = '';
  return (piece) => {
    rest += piece;
    let from = 0;
    for (let end = rest.indexOf('\n'); end >= 0; end = rest.indexOf('\n', from)) {
      onLine(rest.slice(from, rest[end - 1] === '\r' ? end - 1 : end));
      from = end + 1;
    }
    rest = rest.slice(from);
    if (rest.length > limit) {
      onLine(rest);
      rest = '';
    }
  };
}
