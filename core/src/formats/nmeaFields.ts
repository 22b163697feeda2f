/** m/s */
export const KNOT = 1852 / 3600;

/** Sum that follows the asterisk of a sentence: exclusive or of the characters between $ and *. */
export function nmeaChecksum(body: string): string {
  let sum = 0;
  for (let i = 0; i < body.length; i++) sum ^= body.charCodeAt(i);
  return sum.toString(16).toUpperCase().padStart(2, '0');
}

/** A number of a field; NaN where it is none. */
export const numberOf = (text: string | undefined) =>
  text !== undefined && /^-?\d+(\.\d+)?$/.test(text) ? Number(text) : Number.NaN;

/** Of hhmmss.sss; NaN where it is none. A leap second is one. */
export function secondOfDay(text: string | undefined): number {
  const m = /^(\d{2})(\d{2})(\d{2}(?:\.\d+)?)$/.exec(text ?? '');
  if (!m || Number(m[1]) > 23 || Number(m[2]) > 59 || Number(m[3]) >= 61) return Number.NaN;
  return Number(m[1]) * 3600 + Number(m[2]) * 60 + Number(m[3]);
}

/** ddmm.mmmm and a letter to degrees, south and west negative. @param letters that may stand there @param most degrees */
export function degrees(
  text: string | undefined,
  letter: string | undefined,
  letters: string,
  most: number,
): number {
  const m = /^(\d{2,3})(\d{2}(?:\.\d+)?)$/.exec(text ?? '');
  if (!m || letter?.length !== 1 || !letters.includes(letter) || Number(m[2]) >= 60) return Number.NaN;
  const size = Number(m[1]) + Number(m[2]) / 60;
  if (size > most) return Number.NaN;
  return letter === 'S' || letter === 'W' ? -size : size;
}
