'use client';

import { Message } from '@/steps/listening/ui/Message';
import { useLookAgain } from '@/ui/useLookAgain';

export default function ListenerError({ reset }: { error: Error; reset: () => void }) {
  useLookAgain(reset);
  return (
    <Message title="One moment">
      The sitting cannot be reached just now. What you answered is kept; this page goes on by
      itself.
    </Message>
  );
}
