/**
 * A title as it stands inside a sentence: its first letter small, unless its first word is a name or an abbreviation
 * ("Series resistor" becomes "series resistor"; "ADC", "CO", "pH", "R0", "Steinhart–Hart" and "I2C bus" stay).
 */
export function lowerFirst(title: string): string {
  const [first = ''] = title.split(/[\s,:;]/, 1);
  const isName = /^.+[A-Z0-9]/.test(first) || first.length < 2 || NAMES.has(first);
  return isName ? title : title.charAt(0).toLowerCase() + title.slice(1);
}

const NAMES = new Set([
  'Allan',
  'Beta',
  'Bessel',
  'Butterworth',
  'Hampel',
  'Hall',
  'Kelvin',
  'Lagrange',
  'Monte',
]);
