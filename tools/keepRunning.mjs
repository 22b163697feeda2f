import { spawn } from 'node:child_process';

/** What a program ends with when it met an error of its own. */
const BROKEN = 70;
const LONGEST_PAUSE_S = 60;
/** After so long a run the next pause is short again. */
const GOOD_RUN_MS = 60_000;

/**
 * Runs a program of Node until it ends as it should or is asked to stop. One that broke or was killed is started again,
 * after a pause that grows, saying so. @returns its exit code
 */
export async function keepRunning(args, { firstPauseS = 1, say = console.error } = {}) {
  let child = null;
  let stopping = false;
  let endPause = () => {};
  for (const signal of ['SIGINT', 'SIGTERM']) {
    process.on(signal, () => {
      stopping = true;
      child?.kill(signal);
      endPause();
    });
  }
  for (let pauseS = firstPauseS; ; pauseS = Math.min(2 * pauseS, LONGEST_PAUSE_S)) {
    const begun = Date.now();
    const code = await new Promise((done) => {
      child = spawn(process.execPath, args, {
        stdio: ['inherit', 'inherit', 'inherit', 'ipc'],
        // In a group of its own: a terminal's Ctrl+C comes here alone and is passed on once.
        detached: true,
      });
      child.on('close', (exit) => done(exit));
    });
    child = null;
    if (stopping || (code !== BROKEN && code !== null)) return code ?? 1;
    if (Date.now() - begun > GOOD_RUN_MS) pauseS = firstPauseS;
    say(`The server ended by itself. It is started again in ${pauseS} s; Ctrl+C stops that.`);
    await new Promise((done) => {
      endPause = done;
      setTimeout(done, pauseS * 1000);
    });
    if (stopping) return 1;
  }
}
