export type ThermocoupleType = 'K' | 'J' | 'T';

interface Piece {
  /** degC */
  readonly from: number;
  readonly to: number;
  /** mV, rising powers of degC */
  readonly coefficients: readonly number[];
}

interface Reference {
  readonly pieces: readonly Piece[];
  /** Type K above 0 degC: a0 exp(a1 (t - a2)^2) is added. */
  readonly bump?: readonly [number, number, number];
}

/**
 * Reference functions of ITS-90, IEC 60584-1:2013, identical with NIST Monograph 175 (1993): mV against degC with the
 * cold junction at 0 degC. The functions define the scale; wire tolerances come on top.
 */
export const THERMOCOUPLES: Readonly<Record<ThermocoupleType, Reference>> = {
  K: {
    pieces: [
      {
        from: -270,
        to: 0,
        coefficients: [
          0, 0.39450128025e-1, 0.23622373598e-4, -0.32858906784e-6, -0.49904828777e-8, -0.67509059173e-10,
          -0.57410327428e-12, -0.31088872894e-14, -0.10451609365e-16, -0.19889266878e-19, -0.16322697486e-22,
        ],
      },
      {
        from: 0,
        to: 1372,
        coefficients: [
          -0.17600413686e-1, 0.38921204975e-1, 0.18558770032e-4, -0.99457592874e-7, 0.31840945719e-9,
          -0.56072844889e-12, 0.56075059059e-15, -0.32020720003e-18, 0.97151147152e-22, -0.12104721275e-25,
        ],
      },
    ],
    bump: [0.1185976, -0.1183432e-3, 126.9686],
  },
  J: {
    pieces: [
      {
        from: -210,
        to: 760,
        coefficients: [
          0, 0.50381187815e-1, 0.3047583693e-4, -0.8568106572e-7, 0.13228195295e-9, -0.17052958337e-12,
          0.20948090697e-15, -0.12538395336e-18, 0.15631725697e-22,
        ],
      },
      {
        from: 760,
        to: 1200,
        coefficients: [
          0.29645625681e3, -0.14976127786e1, 0.31787103924e-2, -0.31847686701e-5, 0.15720819004e-8,
          -0.30691369056e-12,
        ],
      },
    ],
  },
  T: {
    pieces: [
      {
        from: -270,
        to: 0,
        coefficients: [
          0, 0.38748106364e-1, 0.44194434347e-4, 0.11844323105e-6, 0.20032973554e-7, 0.90138019559e-9,
          0.22651156593e-10, 0.36071154205e-12, 0.38493939883e-14, 0.28213521925e-16, 0.14251594779e-18,
          0.48768662286e-21, 0.1079553927e-23, 0.13945027062e-26, 0.79795153927e-30,
        ],
      },
      {
        from: 0,
        to: 400,
        coefficients: [
          0, 0.38748106364e-1, 0.3329222788e-4, 0.20618243404e-6, -0.21882256846e-8, 0.10996880928e-10,
          -0.30815758772e-13, 0.4547913529e-16, -0.27512901673e-19,
        ],
      },
    ],
  },
};

/** Thermoelectric voltage, mV, of a junction at degC against one at 0 degC; NaN outside the type's range. */
export function thermocoupleMv(type: ThermocoupleType, celsius: number): number {
  const { pieces, bump } = THERMOCOUPLES[type];
  const piece = pieces.find((p) => celsius >= p.from && celsius <= p.to);
  if (!piece) return Number.NaN;
  const sum = piece.coefficients.reduceRight((s, c) => s * celsius + c, 0);
  return bump && celsius > 0 ? sum + bump[0] * Math.exp(bump[1] * (celsius - bump[2]) ** 2) : sum;
}

/** Slope of the reference function, mV per degC: what Newton's steps need, so only roughly. */
function thermocoupleSlope(type: ThermocoupleType, celsius: number): number {
  const h = 0.01;
  const { pieces } = THERMOCOUPLES[type];
  const [low, high] = [pieces[0]!.from, pieces.at(-1)!.to];
  const [a, b] = [Math.max(low, celsius - h), Math.min(high, celsius + h)];
  return (thermocoupleMv(type, b) - thermocoupleMv(type, a)) / (b - a);
}

/** Temperature, degC, of a junction that gives so many mV against one at 0 degC; NaN outside the type's range. */
export function thermocoupleCelsius(type: ThermocoupleType, mv: number): number {
  const { pieces } = THERMOCOUPLES[type];
  let low = pieces[0]!.from;
  let high = pieces.at(-1)!.to;
  if (!(mv >= thermocoupleMv(type, low) && mv <= thermocoupleMv(type, high))) return Number.NaN;
  let t = Math.min(high, Math.max(low, mv / 0.045));
  // Newton's steps, kept inside a bracket that each step narrows: the functions rise, but flatten when cold.
  for (let i = 0; i < 60; i++) {
    const error = thermocoupleMv(type, t) - mv;
    if (error > 0) high = t;
    else low = t;
    let next = t - error / thermocoupleSlope(type, t);
    if (!(next > low && next < high)) next = (low + high) / 2;
    if (Math.abs(next - t) < 1e-9) return next;
    t = next;
  }
  return t;
}
