import { cString } from '../alarm/index.ts';
import { BIG_DIGITS } from './bigDigits.ts';
import { RUNNING_DECIMALS } from './stopwatchOf.ts';
import { NONE } from './widgets/held.ts';
import { RACE_WORDS } from './widgets/stopwatch.ts';

/** Widgets that C can write, in the order of its own table. */
export const WIDGETS_IN_C = ['figure', 'row', 'bar', 'states', 'label', 'peak', 'extremes', 'stopwatch'];
/** Which shown thing a widget has: none, or whichever reads highest. */
export const NOTHING = -1;
export const HIGHEST = -2;

const FIGURES = '0123456789-';

/** The C that all faces of characters share; it stands once. */
export const FACE_IN_C = `#ifndef LN_FACE
#define LN_FACE
#include <math.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#ifndef LN_ALARMS
enum { LN_UNKNOWN, LN_QUIET, LN_CAUTION, LN_LIMIT };
#endif
#ifndef LN_DEGREE
#define LN_DEGREE "\\xDF"
#endif
/* More than the columns of any display. */
#define LN_TEXT 96

/* A word shown instead of a number, and the range it stands for. */
typedef struct {
  const char *name;
  double from, to;
} ln_state;

typedef struct {
  const char *name, *unit, *worth;
  int decimals, followed;
  double low, high;
  /* Which values hold its lowest and its highest; -1 for none. */
  int lowest, highest;
  int states;
  const ln_state *state;
} ln_shown;

typedef struct {
  int page, kind, shown, x, y, width, height;
  const char *text;
} ln_widget;

/* A part of the display; text that does not fit is cut off. */
typedef struct {
  char *at;
  int columns, rows, stride;
} ln_part;

static const char ln_figures[] = "${FIGURES}";
static const char *const ln_cells[] = {${[...FIGURES].map((c) => cString(BIG_DIGITS[c]!.join(''))).join(', ')}};

static inline void ln_write(const ln_part *p, int column, int row, const char *text) {
  if (row < 0 || row >= p->rows) return;
  for (; *text; text++, column++)
    if (column >= 0 && column < p->columns) p->at[row * p->stride + column] = *text;
}

/* A text cut to a number of characters, ending in a full stop if shortened. */
static inline void ln_cut(char *out, const char *text, int room) {
  int n = (int)strlen(text);
  if (n > LN_TEXT - 1) n = LN_TEXT - 1;
  if (n <= room) {
    memcpy(out, text, (size_t)n);
    out[n] = 0;
    return;
  }
  out[0] = 0;
  if (room < 2) return;
  n = room - 1;
  while (n > 0 && text[n - 1] == ' ') n--;
  memcpy(out, text, (size_t)n);
  out[n] = '.';
  out[n + 1] = 0;
}

static inline void ln_line(const ln_part *p, int row, const char *text) {
  char cut[LN_TEXT];
  ln_cut(cut, text, p->columns);
  for (int i = 0; i < p->columns; i++) ln_write(p, i, row, " ");
  ln_write(p, 0, row, cut);
}

/* A number with a number of decimals: halves round away from zero, and zero has no minus sign. */
static inline void ln_print(char *out, double v, int decimals) {
  double unit = pow(10, decimals), whole = floor(fabs(v) * unit);
  int i = 0, zero = 1;
  char digits[LN_TEXT];
  if (fabs(v) * unit - whole == 0.5 && fma(fabs(v), unit, -(whole + 0.5)) == 0)
    snprintf(digits, sizeof digits, "%.*f", decimals, (whole + 1) / unit);
  else
    snprintf(digits, sizeof digits, "%.*f", decimals, fabs(v));
  for (const char *c = digits; *c; c++) zero = zero && (*c == '0' || *c == '.');
  if (v < 0 && !zero) out[i++] = '-';
  strcpy(out + i, digits);
}

/* A name, or if it is too long the part after its first comma or colon. */
static inline const char *ln_short(const char *name, int room) {
  if ((int)strlen(name) <= room) return name;
  for (const char *c = name; *c; c++)
    if ((*c == ',' || *c == ':') && c[1] == ' ') return c + 2;
  return name;
}

static inline void ln_row(const ln_part *p, int row, const char *name, const char *text, const char *unit, int decimals) {
  char value[2 * LN_TEXT], cut[LN_TEXT], alone[LN_TEXT];
  int room;
  snprintf(value, sizeof value, "%s%s%s", text, *unit && *text ? " " : "", unit);
  if ((int)strlen(value) > p->columns) {
    strcpy(alone, text);
    while ((int)strlen(alone) > p->columns && decimals > 0) ln_print(alone, strtod(text, 0), --decimals);
    if (*unit && (int)strlen(alone) <= p->columns) {
      ln_line(p, row, "");
      ln_write(p, p->columns - (int)strlen(alone), row, alone);
      return;
    }
    value[p->columns] = 0;
    ln_line(p, row, value);
    return;
  }
  room = p->columns - (int)strlen(value) - 1;
  ln_cut(cut, ln_short(name, room), room);
  ln_line(p, row, cut);
  ln_write(p, p->columns - (int)strlen(value) - 1, row, " ");
  ln_write(p, p->columns - (int)strlen(value), row, value);
}

static inline int ln_figures_fit(const char *text, const ln_shown *s, int columns) {
  int n = 0, beside = (int)strlen(s->unit);
  if ((int)strlen(s->worth) > beside) beside = (int)strlen(s->worth);
  for (; *text; text++) {
    if (*text == '.') continue;
    if (!strchr(ln_figures, *text)) return 0;
    n++;
  }
  return 4 * n + beside <= columns;
}

static inline int ln_write_figures(const ln_part *p, const char *text) {
  int column = 0;
  for (; *text; text++) {
    const char *of;
    if (*text == '.') {
      ln_write(p, column - 1, 2, ".");
      continue;
    }
    of = ln_cells[strchr(ln_figures, *text) - ln_figures];
    for (int k = 0; k < 9; k++) {
      char cell[2] = {of[k] == 'F' ? 1 : of[k] == 'U' ? 2 : 3, 0};
      if (of[k] != ' ') ln_write(p, column + k % 3, k / 3, cell);
    }
    column += 4;
  }
  return column;
}

static inline const char *ln_word(int level) {
  return level == LN_UNKNOWN ? "?" : level == LN_CAUTION ? "CAUTION" : level == LN_LIMIT ? "LIMIT" : "";
}

static inline void ln_states(const ln_part *p, const char *title, int level, const char *alarm) {
  char line[2 * LN_TEXT], cut[LN_TEXT];
  if (level == LN_QUIET) ln_line(p, 0, ln_short(title, p->columns));
  else if (level == LN_UNKNOWN) {
    ln_cut(cut, ln_short(title, p->columns - 2), p->columns - 2);
    ln_line(p, 0, cut);
    ln_write(p, p->columns - 1, 0, "?");
  } else {
    snprintf(line, sizeof line, "%s %s", ln_word(level), alarm);
    ln_line(p, 0, line);
  }
}

/* The held value as text; "?" if unknown. */
static inline int ln_kept(char *out, const ln_shown *shown, const double *values, int k) {
  strcpy(out, "?");
  if (k < 0 || !isfinite(values[k])) return 0;
  ln_print(out, values[k], shown[k].decimals);
  return 1;
}

static inline void ln_held(const ln_part *p, const char *title, int both, const ln_shown *shown, const double *values, int k) {
  char low[LN_TEXT], high[LN_TEXT], text[3 * LN_TEXT], name[2 * LN_TEXT];
  const char *unit = shown[k].unit, *gap = *unit ? " " : "";
  int known = ln_kept(low, shown, values, shown[k].lowest);
  known = ln_kept(high, shown, values, shown[k].highest) || known;
  if (!known) strcpy(text, ${cString(NONE)});
  else if (both) snprintf(text, sizeof text, "%s..%s%s%s", low, high, gap, unit);
  else snprintf(text, sizeof text, "%s%s%s", high, gap, unit);
  snprintf(name, sizeof name, both ? "%s" : "%s max", title);
  ln_row(p, 0, name, text, "", 0);
}

/* The word for a value, or 0 if there is none. */
static inline const char *ln_state_of(const ln_shown *s, double v) {
  for (int i = 0; i < s->states; i++)
    if (v >= s->state[i].from && v <= s->state[i].to) return s->state[i].name;
  return 0;
}

/* A stopwatch: ready, running or finished. */
static inline void ln_race(const ln_part *p, const char *title, const ln_shown *of, double value, double running) {
  ln_shown s = *of;
  char text[LN_TEXT] = "";
  const char *word = ${cString(RACE_WORDS.ready)};
  s.unit = "s";
  if (isfinite(running)) {
    word = ${cString(RACE_WORDS.running)};
    s.worth = "";
    s.decimals = ${RUNNING_DECIMALS};
    ln_print(text, fmax(0, running), s.decimals);
  } else if (isfinite(value)) {
    word = ${cString(RACE_WORDS.result)};
    ln_print(text, value, s.decimals);
  }
  if (!*text) ln_row(p, 0, title, word, "", 0);
  else if (p->rows >= 3 && ln_figures_fit(text, &s, p->columns)) {
    ln_write(p, ln_write_figures(p, text), 2, "s");
    if (p->rows > 3) ln_line(p, 3, word);
  } else
    ln_row(p, 0, word, text, s.unit, s.decimals);
}

/* The channel with the highest reading; one without a reading goes first, so that a fault is never hidden. */
static inline int ln_highest(const ln_shown *shown, int count, const double *values) {
  int best = -1;
  for (int k = 0; k < count; k++) {
    if (!shown[k].followed) continue;
    if (!isfinite(values[k])) return k;
    if (best < 0 || values[k] > values[best]) best = k;
  }
  return best;
}

static inline void ln_face(char *cells, int columns, int rows, int page, const ln_widget *widgets, int count,
                           const ln_shown *shown, int things, const double *values, const double *running,
                           int level, const char *alarm) {
  int told = level < LN_CAUTION;
  for (int r = 0; r < rows; r++) {
    memset(cells + r * (columns + 1), ' ', (size_t)columns);
    cells[r * (columns + 1) + columns] = 0;
  }
  for (int i = 0; i < count; i++) {
    const ln_widget *w = &widgets[i];
    ln_part p = {cells + w->y * (columns + 1) + w->x, w->width, w->height, columns + 1};
    int k = w->shown == ${HIGHEST} ? ln_highest(shown, things, values) : w->shown;
    const char *title = w->text ? w->text : k >= 0 ? shown[k].name : "";
    char text[LN_TEXT] = "";
    int good = k >= 0 && isfinite(values[k]);
    const char *word = k >= 0 ? ln_state_of(&shown[k], values[k]) : 0;
    if (w->page != page) continue;
    if (good) ln_print(text, values[k], shown[k].decimals);
    if (w->kind == ${WIDGETS_IN_C.indexOf('states')}) {
      ln_states(&p, title, level, alarm);
      told = 1;
    } else if (w->kind == ${WIDGETS_IN_C.indexOf('label')}) ln_line(&p, 0, title);
    else if (k < 0) continue;
    else if (w->kind == ${WIDGETS_IN_C.indexOf('bar')}) {
      double share = (values[k] - shown[k].low) / (shown[k].high - shown[k].low);
      int halves;
      if (!good || isnan(share)) continue;
      halves = (int)floor(2 * p.columns * fmin(1, fmax(0, share)) + 0.5);
      for (int c = 0; c < halves / 2; c++) ln_write(&p, c, 0, "\\1");
      if (halves % 2) ln_write(&p, halves / 2, 0, "\\3");
    } else if (w->kind == ${WIDGETS_IN_C.indexOf('peak')} || w->kind == ${WIDGETS_IN_C.indexOf('extremes')})
      ln_held(&p, title, w->kind == ${WIDGETS_IN_C.indexOf('extremes')}, shown, values, k);
    else if (w->kind == ${WIDGETS_IN_C.indexOf('stopwatch')})
      ln_race(&p, title, &shown[k], values[k], running ? running[k] : NAN);
    else if (w->kind == ${WIDGETS_IN_C.indexOf('figure')} && good && !word && p.rows >= 3 && ln_figures_fit(text, &shown[k], p.columns)) {
      int at = ln_write_figures(&p, text);
      ln_write(&p, at, 2, shown[k].unit);
      ln_write(&p, at, 1, shown[k].worth);
    } else
      ln_row(&p, 0, title, word ? word : good ? text : "waiting", good && !word ? shown[k].unit : "", good && !word ? shown[k].decimals : 0);
  }
  if (!told) {
    ln_part p = {cells + (rows - 1) * (columns + 1), columns, 1, columns + 1};
    ln_states(&p, "", level, alarm);
  }
}
#endif
`;
