/**
 * What a parabola through the three highest samples of a half sine is off by, as a share of its height: the root mean square
 * over all phases that the samples can have. 1 where so few samples fall on it that none may.
 * @param samples samples in its width
 */
export function samplingLoss(samples: number): number {
  if (!(samples >= 2.5)) return 1;
  const step = Math.PI / samples;
  const phases = 40;
  let sum = 0;
  for (let k = 0; k < phases; k++) {
    const top = Math.PI / 2 + ((k + 0.5) / phases - 0.5) * step;
    const [a, b, c] = [Math.sin(top - step), Math.sin(top), Math.sin(top + step)].map((v) => Math.max(0, v));
    const bend = a! - 2 * b! + c!;
    const shift = bend < 0 ? (a! - c!) / (2 * bend) : 0;
    sum += (b! - ((a! - c!) * shift) / 4 - 1) ** 2;
  }
  return Math.sqrt(sum / phases);
}
