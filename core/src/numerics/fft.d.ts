declare module 'fft.js' {
  export default class FFT {
    constructor(size: number);
    readonly size: number;
    createComplexArray(): Float64Array;
    transform(out: Float64Array, data: ArrayLike<number>): void;
    inverseTransform(out: Float64Array, data: ArrayLike<number>): void;
    realTransform(out: Float64Array, data: ArrayLike<number>): void;
    completeSpectrum(spectrum: Float64Array): void;
  }
}
