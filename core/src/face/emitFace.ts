import { cNames, cString } from '../alarm/index.ts';
import { commentText, identifier, literal } from '../line/index.ts';
import type { FacePage } from '../model/face.ts';
import { asCharacters } from './characterGrid.ts';
import { FACE_IN_C, HIGHEST, NOTHING, WIDGETS_IN_C } from './faceInC.ts';
import type { DisplayGrid } from './displayGrid.ts';
import { faceWidget } from './widgets/registry.ts';

/** Something that a face in C shows: a channel's reading, or a figure of it. */
export interface ShownInC {
  /** The channel, or "channel/figure". */
  readonly key: string;
  readonly name: string;
  /** Symbol of its unit. */
  readonly unit: string;
  readonly decimals: number;
  /** "±0.7", or empty where it is not known. */
  readonly worth: string;
  /** Ends of the brief, for a bar; null without one. */
  readonly range: readonly [low: number, high: number] | null;
  /** Words in the place of the number, with the ends of what they name in the same unit; the first that fits counts. */
  readonly states: readonly { readonly name: string; readonly from: number; readonly to: number }[];
  /** Whether it is among those of which the highest is followed. */
  readonly isFollowed: boolean;
  /** Keys of the figures that keep its lowest and its highest in the same unit, and of the race it times; null for none. */
  readonly lowest: string | null;
  readonly highest: string | null;
  readonly race: string | null;
}

/** A text as C writes it: the degree sign is the display's own. */
const letters = (text: string): string =>
  asCharacters(text.replace('±', '+-')).split('°').map(cString).join(' LN_DEGREE ');

const statesTable = (name: string, { states }: ShownInC): string =>
  states.length === 0
    ? ''
    : `static const ln_state ${name}[] = {${states.map((s) => `{${letters(s.name)}, ${literal(s.from)}, ${literal(s.to)}}`).join(', ')}};\n`;

/**
 * The pages of a display of characters as C99: rows of text from values, with the same layout as on the bench.
 * @param hasAlarms whether the gadget has alarms: without, nothing is said of them
 */
export function emitFace(
  name: string,
  grid: DisplayGrid,
  pages: readonly FacePage[],
  shown: readonly ShownInC[],
  hasAlarms: boolean,
): { readonly usage: readonly string[]; readonly code: string } {
  const lower = identifier(name);
  const upper = lower.toUpperCase();
  const names = cNames(shown.map((s) => s.key));
  const { columns, rows } = grid;
  const indexOf = (key: string | null) => shown.findIndex((s) => s.key === key);
  const widgets = pages.flatMap((page, k) =>
    page.widgets
      .filter((w) => WIDGETS_IN_C.includes(w.kind) && w.x + w.width <= columns && w.y + w.height <= rows)
      .map((w) => {
        const of = shown.find((s) => s.key === w.channelId);
        const own = faceWidget(w.kind)?.wants === 'race' ? (of?.race ?? null) : w.channelId;
        const key = w.figureId === null ? own : `${w.channelId}/${w.figureId}`;
        const at = w.channelId === 'highest' ? HIGHEST : indexOf(key);
        const numbers = [k, WIDGETS_IN_C.indexOf(w.kind), at, w.x, w.y, w.width, w.height].join(', ');
        return `  {${numbers}, ${w.text ? letters(w.text) : '0'}},`;
      }),
  );
  const left = pages
    .flatMap((p) => p.widgets)
    .filter((w) => !WIDGETS_IN_C.includes(w.kind))
    .map((w) => faceWidget(w.kind)?.title ?? w.kind);
  const usage = [
    `char cells[${upper}_ROWS][${upper}_COLUMNS + 1]; double shown[${upper}_SHOWN];   // NAN where there is no reading`,
    `${lower}_face(cells, page, shown, running, level, alarm_name);   // each row is 0-terminated; level and alarm_name come from the alarms, or LN_QUIET and "" without alarms`,
    ...(shown.some((s) => s.states.length > 0)
      ? [
          'Use -INFINITY or INFINITY instead of NAN at the end of the ADC range: the matching word is then displayed.',
        ]
      : []),
    `running: for stopwatches, seconds since the latest start of each; NAN when not running; 0 for values that are not timed.`,
    'Character codes 1 to 3 are a full block, a bar at the top and a bar at the bottom. Define them as custom characters of the display.',
    ...(left.length > 0
      ? [`Displayed by Lucky Needle only: ${[...new Set(left)].map(commentText).join(', ')}.`]
      : []),
  ];
  const code = `${FACE_IN_C}
#define ${upper}_COLUMNS ${columns}
#define ${upper}_ROWS ${rows}
#define ${upper}_PAGES ${pages.length}
#define ${upper}_SHOWN ${shown.length}
${shown.map((s, k) => `#define ${upper}_SHOWS_${names[k]!} ${k} /* ${commentText(s.name)}, in ${commentText(s.unit) || 'plain numbers'} */`).join('\n')}

${shown.map((s, k) => statesTable(`${lower}_states_${k}`, s)).join('')}static const ln_shown ${lower}_shown[] = {
${shown.map((s, k) => `  {${letters(s.name)}, ${letters(s.unit)}, ${letters(s.worth)}, ${s.decimals}, ${s.isFollowed ? 1 : 0}, ${literal(s.range?.[0] ?? Number.NaN)}, ${literal(s.range?.[1] ?? Number.NaN)}, ${indexOf(s.lowest)}, ${indexOf(s.highest)}, ${s.states.length}, ${s.states.length > 0 ? `${lower}_states_${k}` : '0'}},`).join('\n')}
};
static const ln_widget ${lower}_widgets[] = {
${widgets.length > 0 ? widgets.join('\n') : `  {-1, 0, ${NOTHING}, 0, 0, 0, 0, 0},`}
};

static inline void ${lower}_face(char cells[${rows}][${columns + 1}], int page, const double *shown, const double *running, int level, const char *alarm) {
  ln_face(&cells[0][0], ${columns}, ${rows}, page, ${lower}_widgets, (int)(sizeof ${lower}_widgets / sizeof *${lower}_widgets),
          ${lower}_shown, ${upper}_SHOWN, shown, running, ${hasAlarms ? 'level' : 'LN_QUIET'}, ${hasAlarms ? 'alarm' : '""'});${hasAlarms ? '' : '\n  (void)level;\n  (void)alarm;'}
}`;
  return { usage, code };
}
