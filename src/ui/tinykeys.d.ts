/** The part that is used; the package ships types that its `exports` do not lead to. */
declare module 'tinykeys' {
  export function tinykeys(
    target: Window | HTMLElement,
    keys: Readonly<Record<string, (event: KeyboardEvent) => void>>,
  ): () => void;
}
