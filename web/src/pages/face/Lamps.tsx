import { Volume2, VolumeX } from 'lucide-react';
import type { AlarmOutputs, LampState } from '@lucky-needle/core/alarm';
import { upperFirst } from '@lucky-needle/core/words';

const COLOURS = { green: '#52c07e', amber: '#f0b23e', red: '#ec4a3f' } as const;
const SOUNDS = { none: 'silent', beeps: 'beeping', steady: 'steady tone' } as const;

interface Props {
  readonly outputs: AlarmOutputs;
  /** In one line: a sounder that is silent is not told. */
  readonly brief?: boolean;
}

/** Lamps and sounder as they stand now, each with its state in words. */
export function Lamps({ outputs, brief = false }: Props) {
  const { lamps, sounder } = outputs;
  const Sound = sounder === 'none' ? VolumeX : Volume2;
  return (
    <ul
      aria-label="Lamps and sounder"
      className={`flex flex-wrap justify-center gap-y-2 text-xs text-neutral-content ${brief ? 'mt-2 gap-x-4' : 'mt-4 gap-x-6'}`}
    >
      {(Object.keys(lamps) as (keyof typeof lamps)[]).map((colour) => {
        const state = lamps[colour];
        return state && <Lamp key={colour} colour={colour} state={state} />;
      })}
      {(!brief || sounder !== 'none') && (
        <li className="flex items-center gap-2" data-testid="sounder" data-state={sounder}>
          <Sound className={`size-4 ${sounder === 'none' ? 'opacity-60' : ''}`} aria-hidden />
          Sounder: {SOUNDS[sounder]}
        </li>
      )}
    </ul>
  );
}

function Lamp({ colour, state }: { colour: keyof typeof COLOURS; state: LampState }) {
  const isLit = state !== 'off';
  return (
    <li className="flex items-center gap-2" data-testid={`lamp-${colour}`} data-state={state}>
      <span
        aria-hidden
        className={`size-3.5 rounded-full border ${state === 'flashing' ? 'animate-pulse motion-reduce:animate-none' : ''}`}
        style={{
          borderColor: COLOURS[colour],
          background: isLit ? COLOURS[colour] : 'transparent',
          boxShadow: isLit ? `0 0 10px ${COLOURS[colour]}` : 'none',
        }}
      />
      {upperFirst(colour)}: {state}
    </li>
  );
}
