'use client';

import Link from 'next/link';
import type { ComponentProps } from 'react';

/**
 * A link within the product. It fetches nothing before it is followed: every page asks the bank, and a page with twenty links
 * would have it answer twenty pages that nobody opens.
 */
export function NextLink(props: ComponentProps<typeof Link>) {
  return <Link prefetch={false} {...props} />;
}
