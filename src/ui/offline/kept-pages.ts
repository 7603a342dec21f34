/** Cache of pages that open again without a connection; whoever signs out clears it. */
export const PAGES_CACHE = 'zeitbank pages';
/** Cache of the product's own files; their names change with what is in them. */
export const FILES_CACHE = 'zeitbank files';

const KEPT_PAGES = [/^\/comparisons\/[^/]+\/run-sheet$/, /^\/listen\/[^/]+$/];

/**
 * Which pages are kept: those that are used where connections are lost. Neither holds what nobody may know yet: the
 * run sheet has no key in it, and a listener's page only what that listener is shown.
 */
export function isKeptPage(pathname: string): boolean {
  return KEPT_PAGES.some((page) => page.test(pathname));
}

/** Files of the framework, with fonts and styles. */
export function isOwnFile(pathname: string): boolean {
  return pathname.startsWith('/_next/static/');
}

/** What a page says to have itself kept. */
export interface KeepAsked {
  keep: string[];
}

/** Addresses that a message asks to keep; none in any other message. */
export function askedToKeep(message: unknown): string[] {
  if (typeof message !== 'object' || message === null || !('keep' in message)) return [];
  const { keep } = message;
  return Array.isArray(keep) && keep.every((address) => typeof address === 'string') ? keep : [];
}

/** What whoever signs out says: what is still on its way to be kept is not kept either. */
export interface ForgetAsked {
  forget: true;
}

export function askedToForget(message: unknown): boolean {
  return (
    typeof message === 'object' &&
    message !== null &&
    'forget' in message &&
    message.forget === true
  );
}

/** Whether an answer is the page itself, and neither a way to the sign-in nor a refusal. */
export function isThePage({
  status,
  redirected,
}: {
  status: number;
  redirected: boolean;
}): boolean {
  return status === 200 && !redirected;
}
