import type { DisplayPart, FaceButton, FaceLook, FaceSpec, Gadget } from '@lucky-needle/core/model';
import { toleranceIn, type GadgetPlan } from '@lucky-needle/core/plan';
import { printSignificant, readingDecimals, UNITS, unitsOf, type UnitId } from '@lucky-needle/core/units';
import { Choice } from '../../parts/Choice.tsx';
import { alike } from './bigReading.ts';
import { BUTTONS } from './GadgetButtons.tsx';
import type { ChannelReading } from './useFaceReadings.ts';

const LOOKS: readonly (readonly [FaceLook, string])[] = [
  ['auto', 'Automatic'],
  ['rows', 'Rows of the other channels'],
  ['dial', 'Dial'],
  ['bar', 'Bar'],
  ['trend', 'Trend of the last minute'],
  ['rose', 'Compass rose'],
];

/** Seconds after which pages turn. */
const TURNS: readonly (readonly [string, string])[] = [
  ['', 'with a button only'],
  ['3', 'every 3 s'],
  ['5', 'every 5 s'],
  ['10', 'every 10 s'],
  ['30', 'every 30 s'],
];

/** Units that a button goes through, at the most. */
const MOST_UNITS = 6;

interface Props {
  readonly gadget: Gadget;
  readonly face: FaceSpec;
  readonly display: DisplayPart;
  readonly displays: readonly DisplayPart[];
  readonly plan: GadgetPlan | null;
  readonly readings: readonly ChannelReading[];
  /** The reading in big figures. */
  readonly followed: ChannelReading | undefined;
  readonly pages: number;
  onFace(part: Partial<FaceSpec>): void;
}

/** The display, what stands big on it, and what the gadget's buttons do. */
export function DisplaySettings({
  gadget,
  face,
  display,
  displays,
  plan,
  readings,
  followed,
  pages,
  onFace,
}: Props) {
  const isOther = plan?.display && plan.display.id !== display.id;
  const buttons = face.buttons ?? { a: 'page', b: 'unit' };
  const units = face.units ?? [];
  const others = followed
    ? unitsOf(UNITS[followed.unit].dimension).filter((u) => u !== followed.unit && !units.includes(u))
    : [];
  return (
    <>
      <Choice
        wide
        label="Display"
        value={display.id}
        onChange={(displayId) => onFace({ displayId })}
        options={displays.map((d) => [d.id, `${d.title}${d.id === plan?.display?.id ? ' (picked)' : ''}`])}
      />
      {isOther && (
        <p role="note" className="text-sm text-warning">
          {plan.display!.title} is the display picked for this gadget. This preview uses a different one.
        </p>
      )}
      {!face.pages && (display.widthPx > 0 || readings.length === 1) && (
        <Choice
          wide
          label="Main reading"
          value={face.bigChannelId}
          onChange={(bigChannelId) => onFace({ bigChannelId })}
          options={[
            ...(alike(readings).length > 1 ? [['highest', 'Channel with the highest reading'] as const] : []),
            ...gadget.channels.map((c) => [c.id, c.name] as const),
          ]}
        />
      )}
      {!face.pages && display.widthPx > 0 && (
        <Choice
          wide
          label="Shown with it"
          value={face.look ?? 'auto'}
          onChange={(look) => onFace({ look })}
          options={LOOKS.filter(([look]) => look !== 'rose' || readings.some((r) => r.isDirection))}
        />
      )}
      <p className="muted text-xs">
        {followed && digitsInWords(followed)} Refreshes every {printSignificant(display.refreshS, 2)} s.
      </p>
      {pages > 1 && (
        <Choice
          wide
          label="Change page"
          value={face.turnS ? String(face.turnS) : ''}
          onChange={(s) => onFace({ turnS: s === '' ? null : Number(s) })}
          options={TURNS}
        />
      )}
      <div className="grid grid-cols-2 gap-2">
        {(['a', 'b'] as const).map((name) => (
          <Choice<FaceButton>
            key={name}
            wide
            label={`Button ${name.toUpperCase()}`}
            value={buttons[name]}
            onChange={(to) => onFace({ buttons: { ...buttons, [name]: to } })}
            options={BUTTONS}
          />
        ))}
      </div>
      {followed && (buttons.a === 'unit' || buttons.b === 'unit') && (
        <div>
          <span className="muted mb-1 block text-xs">Units to cycle through</span>
          <div className="flex flex-wrap items-center gap-1">
            <span className="badge badge-sm">{UNITS[followed.unit].symbol || 'plain'}</span>
            {units.map((u) => (
              <button
                key={u}
                type="button"
                className="badge badge-outline badge-sm cursor-pointer"
                aria-label={`Remove ${UNITS[u].name}`}
                onClick={() => onFace({ units: units.filter((k) => k !== u) })}
              >
                {UNITS[u].symbol || UNITS[u].name} ×
              </button>
            ))}
            {units.length < MOST_UNITS && others.length > 0 && (
              <select
                className="select select-xs w-auto"
                aria-label="Add a unit"
                value=""
                onChange={(e) => onFace({ units: [...units, e.target.value as UnitId] })}
              >
                <option value="">add unit…</option>
                {others.map((u) => (
                  <option key={u} value={u}>
                    {UNITS[u].symbol} ({UNITS[u].name})
                  </option>
                ))}
              </select>
            )}
          </div>
        </div>
      )}
    </>
  );
}

function digitsInWords({ uncertainty, brief, unit }: ChannelReading): string {
  const decimals = readingDecimals(uncertainty, toleranceIn(brief, unit));
  const digits = decimals === 0 ? 'Whole numbers' : decimals === 1 ? 'One decimal' : `${decimals} decimals`;
  return uncertainty === null
    ? `${digits}: uncertainty unknown.`
    : `${digits}: uncertainty about ±${printSignificant(uncertainty, 2)} ${UNITS[unit].symbol}.`;
}
