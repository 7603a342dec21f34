/**
 * Shows another query behind this page's address, for a link or a reload. The entry's state goes with it, so that
 * the router hears nothing: told while it reads the page anew, it loses one or the other.
 */
export function rewriteQuery(query: URLSearchParams, { told = false } = {}): void {
  const text = query.toString();
  const { pathname } = window.location;
  const state: unknown = told ? null : window.history.state;
  window.history.replaceState(state, '', text ? `${pathname}?${text}` : pathname);
}
