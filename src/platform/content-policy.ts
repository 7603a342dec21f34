/** Tells the layout the number that inline scripts of this page carry. */
export const NONCE_HEADER = 'x-nonce';

/**
 * Nothing is fetched from anywhere else, and no script runs but the product's own files and the inline ones
 * with the number of this one answer. Styles are written inline by the interface's library.
 */
export function contentPolicy(nonce: string): string {
  return [
    "default-src 'self'",
    `script-src 'self' 'nonce-${nonce}'`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' data: blob:",
    "media-src 'self' blob:",
    "connect-src 'self' blob:",
    "font-src 'self' data:",
    "object-src 'none'",
    "base-uri 'self'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
}
