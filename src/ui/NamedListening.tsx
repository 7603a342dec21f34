import Button from '@mui/material/Button';
import { Note } from './Sheet';

/** Added to the address of a sound by whoever insists. */
export const INSIST = '?insist=yes';

/** Stands in place of hearing by name while a sitting asks about the same recordings. */
export function NamedListening({ onInsist }: { onInsist: () => void }) {
  return (
    <Note kind="caution">
      A sitting over these recordings is open. Whoever hears them by name now can recognise what the
      panel hears blind, so they are not played here until it is closed. If it must be: that you
      listened by name, and when, then stands in every report of that sitting.{' '}
      <Button size="small" onClick={onInsist}>
        Listen by name all the same
      </Button>
    </Note>
  );
}
