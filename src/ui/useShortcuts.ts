'use client';

import { useEffect, useRef } from 'react';
import { tinykeys } from 'tinykeys';

const WRITTEN_IN =
  'input:not([type=checkbox], [type=radio], [type=range]), textarea, select, [role=listbox]';

/** Whether somebody is writing or choosing: then keys are not meant for the page. */
export function isWriting({ target }: Event): boolean {
  return target instanceof Element && target.closest(WRITTEN_IN) !== null;
}

/**
 * Keys of a page, as `tinykeys` writes them (`1`, `Space`, `?`), whether Shift is needed for them
 * on somebody's keyboard or not; a key with Ctrl, Alt or Meta is never one of them.
 * @param ignored whether a key press is meant for something else
 */
export function useShortcuts(
  keys: Readonly<Record<string, (event: KeyboardEvent) => void>>,
  ignored: (event: KeyboardEvent) => boolean = isWriting,
): void {
  const now = useRef({ keys, ignored });
  useEffect(() => {
    now.current = { keys, ignored };
  });
  const named = Object.keys(keys).join(' , ');
  useEffect(
    () =>
      tinykeys(
        window,
        Object.fromEntries(
          named.split(' , ').flatMap((key) => {
            const press = (event: KeyboardEvent) => {
              if (!now.current.ignored(event)) now.current.keys[key]?.(event);
            };
            return [key, `Shift+${key}`].map((one) => [one, press]);
          }),
        ),
      ),
    [named],
  );
}
