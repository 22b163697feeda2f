// Words that texts for people do not use, each with the better one. A rule holds for every text of the program, README and docs.

/** @type {readonly { find: RegExp, say: string, except?: RegExp }[]} */
const RULES = [
  { find: /\bworth (±|\{…\}|\d)/, say: '“uncertainty ±…”' },
  { find: /\bgood to\b/i, say: '“accurate to ±…”' },
  { find: /\bgive or take\b/i, say: '“uncertainty ±…”' },
  { find: /\bas bought\b/i, say: '“uncalibrated” or “datasheet accuracy”' },
  { find: /\btru(e|ed|ing) (it |them )?up\b/i, say: '“calibrate” (only the page is called True-up)' },
  { find: /\bput in use\b|\bin use since\b/i, say: '“Use this calibration”, “active”' },
  { find: /\berror budget\b/i, say: '“uncertainty budget”' },
  {
    find: /\btak(e|es|en|ing) (it |them |this |these |that )?(out|away|off)\b/i,
    say: '“remove”, “delete” or “subtract”',
  },
  { find: /\bput(s|ting)? (it |them |this )?(right|back)\b/i, say: '“correct” or “reset”' },
  {
    find: /\b(readings?|times|rows|samples|edges|counts|beats|marks|frames|bits|values|degrees|metres) an? (second|minute|hour|day|week|turn|reading|metre|millimetre|mm)\b/i,
    say: '“per”',
  },
  { find: /\bthe bench\b/i, say: '“Lucky Needle” or “the server”' },
  { find: /\bnot known\b(?! to)/i, say: '“unknown”' },
  { find: /\bno(body|-one) (has )?(said|says|stated|states|told)\b/i, say: '“unknown”' },
  { find: /\bwork(s|ed|ing) (it |them )?out\b/i, say: '“calculate”' },
  { find: /\bnot shown\b/i, say: '“not proven”' },
  { find: /\bfigures?\b/i, say: '“result” or “digits”' },
  { find: /\bstretch(es)?\b/i, say: '“section”' },
  { find: /\b(slip finder|likely slip|the slip)\b/i, say: '“mistake”' },
  { find: /\banew\b|\bbegun\b/i, say: '“again”, “started”' },
  { find: /\bcut-offs?\b/i, say: '“cutoff”' },
  { find: /\btwo-wire\b/i, say: '“I2C”' },
  { find: /(?<!there )\bis no (number|json|zip|valid|value|file|time|text)\b/i, say: '“is not a …”' },
  { find: /\b(lie|lies) (above|below|beyond|outside|within|inside)\b/i, say: '“is”' },
  { find: /\bfetching\b/i, say: '“loading”' },
  { find: /\b(is|are|was) (asked|wanted)\b|\basked for\b/i, say: '“required”' },
  { find: /\bbears?\b/i, say: '“tolerates”' },
  {
    find: /\bleft out\b/i,
    say: '“excluded” or “not imported”',
    except: /leave-one-out|left out in turn|(points|when) left out/i,
  },
  { find: /\bspeaks against\b|\bhangs on\b/i, say: 'a plain verb' },
  { find: /\bevery \{…\}(st|nd|rd|th)\b/, say: '“1 of every …”: ordinals break' },
  {
    find: /\b1 (stages|rows|readings|days|counts|trials|runs|channels|points|events|comparisons|claims|values)\b/,
    say: 'the singular',
  },
  { find: /(?<!\.)\.\.(?!\.)/, say: 'one full stop', except: /\.\.\/|"\.\."/ },
  { find: /[\w}”)%] [,.;:!?](\s|$)/, say: 'no blank before punctuation' },
  { find: /^It [a-z]+( [a-z’]+)*$/, say: 'the thing by its name: a label never begins with “It”' },
];

/** Texts that are right as they are: keys that are stored, and words that a rule would take for another. */
const ALLOWED = new Set(['in use', 'not shown', 'worked out', 'Left over from the old lighting.']);

/** Generated C is code; only its comments are texts, and they are read with it. */
const isCode = (text) =>
  /\? 1 - exp|[;{}]\s*(LN_|\{…\}|return|if \(|else|static|#)|LN_[A-Z]+|^\{…\} = |^\+ \(|^\W*(#|if \(|else|int |double )/.test(
    text,
  );

/**
 * What is wrong with a text.
 * @param {string} text with {…} for what only the running program knows
 * @returns {{ found: string, say: string }[]} empty when nothing is
 */
export function faultsOf(text) {
  if (ALLOWED.has(text) || isCode(text)) return [];
  return RULES.filter((rule) => rule.find.test(text) && !rule.except?.test(text)).map((rule) => ({
    found: rule.find.exec(text)[0].trim(),
    say: rule.say,
  }));
}
