'use client';

import { useSnackbar } from 'notistack';

/** Puts a link into the clipboard and says so. */
export function useCopy(): (link: string) => Promise<void> {
  const { enqueueSnackbar } = useSnackbar();
  return async (link) => {
    await navigator.clipboard.writeText(link).then(
      () => enqueueSnackbar('The link is copied.'),
      () => enqueueSnackbar('Copying is not allowed here; mark the link and copy it by hand.'),
    );
  };
}
