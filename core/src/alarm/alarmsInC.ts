import { KEPT, SILENT_S, STILL } from './createAlarms.ts';

/** What all alarms share; it stands once, however many headers are taken in. */
export const ALARMS_RUNTIME = `#ifndef LN_ALARMS
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

/* Keeps the values of a time window; the oldest is at its start or just before it. */
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
