declare module 'fft.js' {
  /** Fast Fourier transform of a size that is a power of two. */
  export default class FFT {
    constructor(size: number);
    createComplexArray(): number[];
    /** Fills the first half of the output: pairs of real and imaginary parts. */
    realTransform(output: number[], input: ArrayLike<number>): void;
  }
}
