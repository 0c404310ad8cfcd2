/// <reference types="vite/client" />

declare module 'zxing-wasm/reader/zxing_reader.wasm?url' {
  const url: string;
  export default url;
}

declare module 'virtual:messages/*' {
  /** What is said, by the id that the macro gives it, ready to be filled in. */
  export const messages: Record<string, string>;
}
