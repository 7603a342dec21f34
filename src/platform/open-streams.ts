const shared = globalThis as { zeitbankStreams?: Set<() => void> };

/** Streams that stay open; the server ends them before it stops, else it would wait for them. */
export const openStreams: Set<() => void> = (shared.zeitbankStreams ??= new Set());
