import { commentText, identifier, literal } from '../line/index.ts';
import type { AlarmRule } from '../model/alarm.ts';
import { UNITS, type UnitId } from '../units/index.ts';
import { levelsOf } from './alarmSize.ts';
import { inUnitOf } from './inUnitOf.ts';
import { KEPT, SILENT_S, STILL } from './createAlarms.ts';

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
        `${lower}_alarms_reading(&alarms, ${upper}_READS_${c.name}, seconds, shown, fault);   // ${c.remark}, each reading; fault: 1 where it is missing or at the end of its converter`,
    ),
    ...figures.map(
      (f) =>
        `${lower}_alarms_figure(&alarms, ${upper}_FIGURE_${f.name}, seconds, value, when);   // ${f.remark}; when: of what it is made of, or NAN`,
    ),
    `${lower}_alarms_time(&alarms, seconds, silent);   // each second, and how long nothing has been read`,
    `switch (${lower}_alarms_lamp(&alarms, LN_RED)) ...   // 0 off, 1 on, 2 flashing, -1 for a lamp that no alarm has`,
    `${lower}_alarms_see(&alarms, ${upper}_ALARM_${ruleNames[0] ?? 'NAME'}, seconds);   // somebody has pressed the button`,
  ];
  const code = `${RUNTIME}
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
/* The page of the face that the gravest of those asks for that nobody has seen, from 0; -1 for none. */
static inline int ${lower}_alarms_page(const ${lower}_alarms *a) {
  return ln_page(${lower}_rules, a->of, ${upper}_ALARMS);
}
/* The gravest: 0 not known, 1 quiet, 2 caution, 3 limit; and the first that stands so. */
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

/** What all alarms share; it stands once, however many headers are taken in. */
const RUNTIME = `#ifndef LN_ALARMS
#define LN_ALARMS
#include <math.h>
#include <string.h>

enum { LN_UNKNOWN, LN_QUIET, LN_CAUTION, LN_LIMIT };
enum { LN_HIGH, LN_LOW, LN_OUTSIDE, LN_SECTOR, LN_RISE, LN_FALL, LN_SILENT, LN_FAULT };
enum { LN_GREEN, LN_AMBER, LN_RED };

typedef struct {
  int kind, by_figure, fed, n, m, latch, lamp, sounder, has_caution, page;
  double caution, limit, from, to, hysteresis, window, minimum_on, scale, offset;
} ln_rule;

typedef struct {
  int level, seen, held, next, kept, first, has_last;
  double since, value, silenced_to, heard, last, most;
} ln_alarm;

typedef struct {
  const ln_rule *rule;
  ln_alarm *m;
  unsigned char *caution, *limit;
  double *times, *values;
  int ring;
} ln_place;

static inline void ln_fresh(ln_alarm *m) {
  m->since = m->value = m->heard = NAN;
  m->silenced_to = -INFINITY;
}

static inline void ln_change(ln_place *p, int to, double t) {
  ln_alarm *m = p->m;
  int from = m->level;
  if (to == from) return;
  m->level = to;
  m->since = t;
  m->held = 0;
  if (to > from && to > LN_QUIET) {
    m->seen = 0;
    m->silenced_to = -INFINITY;
  }
}

static inline int ln_wanted(const ln_place *p) {
  int c = 0, l = 0;
  for (int i = 0; i < p->rule->m; i++) {
    c += p->caution[i];
    l += p->limit[i];
  }
  return l >= p->rule->n ? LN_LIMIT : c >= p->rule->n ? LN_CAUTION : LN_QUIET;
}

static inline int ln_beyond(double size, double at, double back, int on) {
  return on && back > 0 ? size > at - back : size >= at;
}

static inline void ln_judge(ln_place *p, double size, double t) {
  const ln_rule *r = p->rule;
  ln_alarm *m = p->m;
  double back = r->kind == LN_SILENT || r->kind == LN_FAULT ? 0 : r->hysteresis;
  int on = m->level, wanted;
  p->caution[m->next] = (unsigned char)ln_beyond(size, r->caution, back, on >= LN_CAUTION);
  p->limit[m->next] = (unsigned char)ln_beyond(size, r->limit, back, on == LN_LIMIT);
  m->next = (m->next + 1) % r->m;
  wanted = ln_wanted(p);
  if (wanted >= m->level) {
    m->held = 0;
    ln_change(p, wanted, t);
    return;
  }
  if (t < m->since) m->since = t;
  if (t - m->since < r->minimum_on) return;
  if (r->latch && !m->seen) m->held = 1;
  else ln_change(p, wanted, t);
}

static inline void ln_lose(ln_place *p, double t) {
  if (p->m->level == LN_QUIET) ln_change(p, LN_UNKNOWN, t);
}

static inline double ln_size(const ln_rule *r, double x) {
  double width, half, off;
  switch (r->kind) {
    case LN_LOW:
    case LN_FALL:
      return -x;
    case LN_OUTSIDE:
      return fmax(r->from - x, x - r->to);
    case LN_SECTOR:
      width = fmod(fmod(r->to - r->from, 360) + 360, 360);
      half = width / 2;
      off = fmod(fmod(x - (r->from + half) + 180, 360) + 360, 360) - 180;
      return half - fabs(off);
    default:
      return x;
  }
}

/* Keeps the values of a window: its oldest stands at its begin, or just before. */
static inline void ln_keep(ln_place *p, double t, double x) {
  ln_alarm *m = p->m;
  double window = p->rule->window;
  if (m->kept > 0 && t - p->times[(m->first + m->kept - 1) % p->ring] < window / ${KEPT}.0) return;
  if (m->kept == p->ring) {
    m->first = (m->first + 1) % p->ring;
    m->kept--;
  }
  p->times[(m->first + m->kept) % p->ring] = t;
  p->values[(m->first + m->kept) % p->ring] = x;
  m->kept++;
  while (m->kept > 2 && p->times[(m->first + 1) % p->ring] <= t - window) {
    m->first = (m->first + 1) % p->ring;
    m->kept--;
  }
}

static inline void ln_take(ln_place *p, double t, double x) {
  const ln_rule *r = p->rule;
  if (isnan(x)) {
    ln_lose(p, t);
    return;
  }
  x = x * r->scale + r->offset;
  if ((r->kind == LN_HIGH || r->kind == LN_LOW) && (x < r->from || x > r->to)) {
    ln_lose(p, t);
    return;
  }
  if (r->kind == LN_RISE || r->kind == LN_FALL) {
    ln_keep(p, t, x);
    if (!(t - p->times[p->m->first] >= 0.8 * r->window)) {
      ln_lose(p, t);
      return;
    }
    x -= p->values[p->m->first];
  }
  p->m->value = x;
  ln_judge(p, ln_size(r, x), t);
}

static inline void ln_heard(ln_place *p, double t) {
  p->m->heard = t;
  p->m->value = 0;
  ln_judge(p, 0, t);
}

static inline void ln_reading(ln_place *p, double t, double value, int fault) {
  const ln_rule *r = p->rule;
  ln_alarm *m = p->m;
  int good = !fault && !isnan(value), stuck;
  if (r->kind == LN_SILENT) {
    ln_heard(p, t);
    return;
  }
  if (r->kind != LN_FAULT) {
    ln_take(p, t, good ? value : NAN);
    return;
  }
  if (good) {
    m->most = fmax(m->most, fabs(value));
    if (!m->has_last || fabs(value - m->last) > ${STILL} * m->most) {
      m->last = value;
      m->heard = t;
    }
    m->has_last = 1;
  }
  stuck = r->window > 0 && t - m->heard >= r->window;
  if (!good && !fault) {
    ln_lose(p, t);
    return;
  }
  ln_judge(p, fault || stuck ? 1 : 0, t);
}

static inline void ln_figure(ln_place *p, double t, double value, double at) {
  if (p->rule->kind != LN_SILENT) ln_take(p, t, value);
  else if (!isnan(at) && at != p->m->heard) ln_heard(p, at);
}

static inline void ln_time(ln_place *p, double t, double silent) {
  const ln_rule *r = p->rule;
  ln_alarm *m = p->m;
  double size;
  if (r->kind != LN_SILENT) {
    if (silent > ${SILENT_S}) ln_lose(p, t);
    return;
  }
  if (isnan(m->heard)) {
    if (silent >= r->window) ln_judge(p, silent, t);
    return;
  }
  size = fmax(t - m->heard, r->by_figure ? 0 : silent);
  if (size < r->window && m->level != LN_LIMIT) return;
  m->value = size;
  ln_judge(p, size, t);
}

static inline void ln_see(ln_place *p, double t) {
  p->m->seen = 1;
  if (!p->m->held) return;
  p->m->held = 0;
  ln_change(p, ln_wanted(p), t);
  p->m->seen = 1;
}

static inline int ln_gravest(const ln_alarm *of, int count, int *which) {
  int worst = LN_UNKNOWN, unknown = 0;
  *which = 0;
  for (int k = 0; k < count; k++) {
    if (of[k].level == LN_UNKNOWN) unknown = 1;
    if (of[k].level > worst) {
      worst = of[k].level;
      *which = k;
    }
  }
  return worst == LN_QUIET && unknown ? LN_UNKNOWN : worst;
}

static inline int ln_lamp(const ln_rule *rules, const ln_alarm *of, int count, int lamp) {
  int has = 0, lit = 0, flashing = 0, quiet = 1;
  for (int k = 0; k < count; k++) {
    const ln_rule *r = &rules[k];
    int shows = r->lamp == 0 || of[k].level < LN_CAUTION ? 0 : of[k].level == LN_LIMIT ? r->lamp : LN_AMBER;
    if (of[k].level != LN_QUIET) quiet = 0;
    if (lamp == LN_GREEN ? r->lamp != 0 : r->lamp == lamp || (lamp == LN_AMBER && r->lamp != 0 && r->has_caution)) has = 1;
    if (lamp != LN_GREEN && shows == lamp) {
      lit = 1;
      if (!of[k].seen) flashing = 1;
    }
  }
  if (!has) return -1;
  return lamp == LN_GREEN ? quiet : flashing ? 2 : lit;
}

static inline int ln_page(const ln_rule *rules, const ln_alarm *of, int count) {
  int page = -1, level = LN_QUIET;
  for (int k = 0; k < count; k++)
    if (rules[k].page > 0 && of[k].level > level && !of[k].seen) {
      level = of[k].level;
      page = rules[k].page - 1;
    }
  return page;
}

static inline int ln_sounder(const ln_rule *rules, const ln_alarm *of, int count, double t) {
  int sounds = 0;
  for (int k = 0; k < count; k++)
    if (rules[k].sounder > sounds && of[k].level >= LN_CAUTION && !of[k].seen && of[k].silenced_to - t <= 0)
      sounds = rules[k].sounder;
  return sounds;
}
#endif
`;
