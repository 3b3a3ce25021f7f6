declare module 'libheif-js/wasm-bundle.js' {
  interface HeifImage {
    get_width(): number
    get_height(): number
    display(to: { data: Uint8ClampedArray; width: number; height: number }, done: (shown: unknown) => void): void
  }
  const libheif: { HeifDecoder: new () => { decode(bytes: Uint8Array): HeifImage[] } }
  export default libheif
}
