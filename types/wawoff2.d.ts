declare module 'wawoff2' {
  /** WOFF 2 to TrueType. */
  export function decompress(font: Uint8Array): Promise<Uint8Array>;
}
