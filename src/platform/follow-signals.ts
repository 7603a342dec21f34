import { openStreams } from './open-streams';

/** Ends open streams when the server is told to stop, and the server when its starter is gone. */
export function followSignals(): void {
  const endStreams = () => {
    for (const end of openStreams) end();
  };
  process.once('SIGTERM', endStreams);
  process.once('SIGINT', endStreams);
  process.once('disconnect', () => process.exit(0));
}
