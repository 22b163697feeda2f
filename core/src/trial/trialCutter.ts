import type { WatchedEvent } from '../detect/index.ts';
import type { TrialRule } from '../model/trial.ts';

export interface CutStretch {
  readonly fromS: number;
  readonly toS: number;
}

/** Cuts a run into trials while it goes by. */
export interface TrialCutter {
  /** An event of the rule's channel, in the order in which they become certain. */
  event(event: WatchedEvent): void;
  /** A mark of the run, once all before it has been seen. */
  mark(timeS: number): void;
  /** The run is over. */
  end(timeS: number): void;
  /** Where the trial that goes on began; null while none does. */
  openS(): number | null;
}

/**
 * @param startS when the run began
 * @param cut a trial is over: what was made of it is to be read before anything else is fed, and begun anew
 */
export function createTrialCutter(
  rule: TrialRule,
  startS: number,
  cut: (stretch: CutStretch) => void,
): TrialCutter {
  const isStretch = rule.how === 'run' || rule.how === 'marks';
  let fromS: number | null = isStretch ? startS : null;
  const close = (toS: number, next: number | null) => {
    if (fromS !== null && toS > fromS) cut({ fromS, toS });
    fromS = next;
  };
  return {
    event({ what, watchId, timeS, endS, counted }) {
      if (!counted) return;
      if (rule.how === 'event' && watchId === rule.watchId) {
        if (what === 'start') fromS = timeS;
        else {
          cut({ fromS: timeS, toS: Math.max(timeS, endS) });
          fromS = null;
        }
      }
      if (rule.how !== 'between' || what === 'start') return;
      // A start that is given again takes the place of the one before: the first was a false one.
      if (watchId === rule.watchId) fromS = timeS;
      else if (watchId === rule.endWatchId && fromS !== null) close(timeS, null);
    },
    mark(timeS) {
      if (rule.how === 'marks') close(timeS, timeS);
    },
    end(timeS) {
      if (isStretch) close(timeS, null);
      // A try that the run broke off is none.
      else fromS = null;
    },
    openS: () => fromS,
  };
}
