// What is used of packages that bring no types.

declare module 'libheif-js/wasm-bundle' {
  interface HeifImage {
    get_width(): number;
    get_height(): number;
    /** Fills `data` with red, green, blue and opacity; null where it can’t be decoded. */
    display(
      picture: { data: Uint8ClampedArray; width: number; height: number },
      done: (shown: { data: Uint8ClampedArray } | null) => void,
    ): void;
  }
  const libheif: { HeifDecoder: new () => { decode(bytes: Uint8Array): HeifImage[] } };
  export default libheif;
}
