import { commentText, identifier, literal } from '../line/index.ts';
import type { AlarmRule } from '../model/alarm.ts';
import { UNITS, type UnitId } from '../units/index.ts';
import { levelsOf } from './alarmSize.ts';
import { inUnitOf } from './inUnitOf.ts';
import { ALARMS_RUNTIME } from './alarmsInC.ts';
import { KEPT } from './createAlarms.ts';

/** A channel or a figure that alarms look at, by its name in C. */
interface Fed {
  readonly key: string;
  readonly name: string;
  readonly remark: string;
}

const KINDS: readonly AlarmRule['kind'][] = [
  'high',
  'low',
  'outside',
  'sector',
  'rise',
  'fall',
  'silent',
  'fault',
];
const LAMPS: readonly AlarmRule['lamp'][] = ['none', 'amber', 'red'];
const SOUNDERS: readonly AlarmRule['sounder'][] = ['none', 'beeps', 'steady'];

/** Names in C are poorer than ids: those that would be alike have their number behind them. */
export function cNames(ids: readonly string[]): string[] {
  const plain = ids.map((id) => identifier(id).toUpperCase());
  return plain.map((name, k) => (plain.filter((p) => p === name).length === 1 ? name : `${name}_${k + 1}`));
}

/** A text as a constant of C; letters that a small display lacks become "?". */
export const cString = (text: string): string =>
  `"${[...text]
    .map((c) => (c === '"' || c === '\\' ? `\\${c}` : c === '?' ? '\\?' : /[ -~]/.test(c) ? c : '\\?'))
    .join('')}"`;

/**
 * Alarms of a gadget as C99: the same rules, told of the same readings in the unit of each rule, come and go at the same
 * moments as on the bench.
 * @param name of the gadget @param fedWith what the maker calls a channel, or a figure of it, and the unit that it comes in
 */
export function emitAlarms(
  name: string,
  rules: readonly AlarmRule[],
  fedWith: (channelId: string, figureId: string | null) => { readonly name: string; readonly unit: UnitId },
): { readonly usage: readonly string[]; readonly code: string } {
  const lower = identifier(name);
  const upper = lower.toUpperCase();
  const told = (rule: AlarmRule) => fedWith(rule.channelId, rule.figureId);
  const channels = fedBy(rules, (r) => (r.figureId === null ? r.channelId : null), told);
  const figures = fedBy(rules, (r) => (r.figureId === null ? null : `${r.channelId}/${r.figureId}`), told);
  const ruleNames = cNames(rules.map((r) => r.name));
  const ring = rules.some((r) => r.kind === 'rise' || r.kind === 'fall') ? KEPT + 8 : 1;
  const most = Math.max(1, ...rules.map((r) => r.m));
  const table = rules.map((rule) => {
    const { caution, limit } = levelsOf(rule);
    const fed =
      rule.figureId === null
        ? channels.findIndex((c) => c.key === rule.channelId)
        : figures.findIndex((f) => f.key === `${rule.channelId}/${rule.figureId}`);
    const numbers = [
      caution,
      limit,
      rule.from ?? (rule.kind === 'high' || rule.kind === 'low' ? -Infinity : 0),
      rule.to ?? (rule.kind === 'high' || rule.kind === 'low' ? Infinity : 0),
      rule.hysteresis,
      rule.windowS,
      rule.minimumOnS,
      ...scaleOf(rule, told(rule).unit),
    ];
    const whole = [
      KINDS.indexOf(rule.kind),
      rule.figureId === null ? 0 : 1,
      fed,
      rule.n,
      rule.m,
      rule.latch ? 1 : 0,
      LAMPS.indexOf(rule.lamp),
      SOUNDERS.indexOf(rule.sounder),
      rule.caution === null ? 0 : 1,
      rule.page ?? 0,
    ];
    return `  {${whole.join(', ')}, ${numbers.map(literal).join(', ')}}, /* ${commentText(rule.name)} */`;
  });
  const usage = [
    `${lower}_alarms alarms; ${lower}_alarms_start(&alarms);`,
    ...channels.map(
      (c) =>
        `${lower}_alarms_reading(&alarms, ${upper}_READS_${c.name}, seconds, shown, fault);   // ${c.remark}: call for each reading; fault: 1 if missing or at the end of the ADC range`,
    ),
    ...figures.map(
      (f) =>
        `${lower}_alarms_figure(&alarms, ${upper}_FIGURE_${f.name}, seconds, value, when);   // ${f.remark}; when: time of the latest data it is based on, or NAN`,
    ),
    `${lower}_alarms_time(&alarms, seconds, silent);   // call every second; silent: seconds since the last reading`,
    `switch (${lower}_alarms_lamp(&alarms, LN_RED)) ...   // 0 off, 1 on, 2 flashing, -1 no alarm uses this lamp`,
    `${lower}_alarms_see(&alarms, ${upper}_ALARM_${ruleNames[0] ?? 'NAME'}, seconds);   // call when the acknowledge button is pressed`,
  ];
  const code = `${ALARMS_RUNTIME}
${rules.map((r, k) => `#define ${upper}_ALARM_${ruleNames[k]!} ${k} /* ${commentText(r.name)}, in ${UNITS[r.unit].name} */`).join('\n')}
#define ${upper}_ALARMS ${rules.length}
${channels.map((c, k) => `#define ${upper}_READS_${c.name} ${k} /* ${c.remark} */`).join('\n')}
${figures.map((f, k) => `#define ${upper}_FIGURE_${f.name} ${k} /* ${f.remark} */`).join('\n')}

static const ln_rule ${lower}_rules[${Math.max(1, rules.length)}] = {
${table.length > 0 ? table.join('\n') : '  {0}'}
};
static const char *const ${lower}_alarm_names[${Math.max(1, rules.length)}] = {${rules.length > 0 ? rules.map((r) => cString(r.name)).join(', ') : '""'}};

typedef struct {
  ln_alarm of[${Math.max(1, rules.length)}];
  unsigned char answers[${Math.max(1, rules.length)}][2][${most}];
  double times[${Math.max(1, rules.length)}][${ring}];
  double values[${Math.max(1, rules.length)}][${ring}];
} ${lower}_alarms;

static inline ln_place ${lower}_alarms_place(${lower}_alarms *a, int k) {
  ln_place p = {&${lower}_rules[k], &a->of[k], a->answers[k][0], a->answers[k][1], a->times[k], a->values[k], ${ring}};
  return p;
}
static inline void ${lower}_alarms_start(${lower}_alarms *a) {
  memset(a, 0, sizeof *a);
  for (int k = 0; k < ${upper}_ALARMS; k++) ln_fresh(&a->of[k]);
}
static inline void ${lower}_alarms_reading(${lower}_alarms *a, int channel, double t, double value, int fault) {
  for (int k = 0; k < ${upper}_ALARMS; k++) {
    ln_place p = ${lower}_alarms_place(a, k);
    if (!p.rule->by_figure && p.rule->fed == channel) ln_reading(&p, t, value, fault);
  }
}
static inline void ${lower}_alarms_figure(${lower}_alarms *a, int figure, double t, double value, double at) {
  for (int k = 0; k < ${upper}_ALARMS; k++) {
    ln_place p = ${lower}_alarms_place(a, k);
    if (p.rule->by_figure && p.rule->fed == figure) ln_figure(&p, t, value, at);
  }
}
static inline void ${lower}_alarms_time(${lower}_alarms *a, double t, double silent) {
  for (int k = 0; k < ${upper}_ALARMS; k++) {
    ln_place p = ${lower}_alarms_place(a, k);
    ln_time(&p, t, silent);
  }
}
static inline void ${lower}_alarms_see(${lower}_alarms *a, int k, double t) {
  ln_place p = ${lower}_alarms_place(a, k);
  ln_see(&p, t);
}
static inline void ${lower}_alarms_silence(${lower}_alarms *a, double t, double seconds) {
  for (int k = 0; k < ${upper}_ALARMS; k++) a->of[k].silenced_to = t + seconds;
}
static inline int ${lower}_alarms_lamp(const ${lower}_alarms *a, int lamp) {
  return ln_lamp(${lower}_rules, a->of, ${upper}_ALARMS, lamp);
}
/* 0 silent, 1 beeps, 2 steady. */
static inline int ${lower}_alarms_sounder(const ${lower}_alarms *a, double t) {
  return ln_sounder(${lower}_rules, a->of, ${upper}_ALARMS, t);
}
/* Display page that the most serious unacknowledged alarm asks for, from 0; -1 for none. */
static inline int ${lower}_alarms_page(const ${lower}_alarms *a) {
  return ln_page(${lower}_rules, a->of, ${upper}_ALARMS);
}
/* Most serious level: 0 unknown, 1 OK, 2 caution, 3 limit; name: the first alarm at that level. */
static inline int ${lower}_alarms_level(const ${lower}_alarms *a, const char **name) {
  int k, level = ln_gravest(a->of, ${upper}_ALARMS, &k);
  *name = level > LN_QUIET ? ${lower}_alarm_names[k] : "";
  return level;
}`;
  return { usage, code };
}

function fedBy(
  rules: readonly AlarmRule[],
  keyOf: (rule: AlarmRule) => string | null,
  told: (rule: AlarmRule) => { readonly name: string; readonly unit: UnitId },
): Fed[] {
  const seen = new Map<string, { readonly name: string; readonly unit: UnitId }>();
  for (const rule of rules) {
    const key = keyOf(rule);
    if (key !== null && !seen.has(key)) seen.set(key, told(rule));
  }
  const names = cNames([...seen.values()].map((s) => s.name));
  return [...seen].map(([key, { name, unit }], k) => ({
    key,
    name: names[k]!,
    remark: `${commentText(name)}, in ${UNITS[unit].name}`,
  }));
}

/** From the unit that something is fed in to the rule's: factor and offset. */
function scaleOf(rule: AlarmRule, from: UnitId): [scale: number, offset: number] {
  if (from === rule.unit) return [1, 0];
  const [zero, one] = [inUnitOf(rule, from, 0), inUnitOf(rule, from, 1)];
  return [one - zero, zero];
}
