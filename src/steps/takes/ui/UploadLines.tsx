'use client';

import CloseIcon from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { bytes, countWord } from '@/ui/format';
import { token } from '@/ui/tokens';
import type { Uploads } from './useUploads';

/** Lines drawn at once; 200 files are counted, not all listed. */
const MOST_LINES = 12;

/** Files on their way: each with its progress, all together, and a pause. */
export function UploadLines({ uploads }: { uploads: Uploads }) {
  const { lines, paused, done } = uploads;
  if (lines.length === 0) return null;
  const going = lines.filter(({ state }) => state !== 'failed');
  const failed = lines.filter(({ state }) => state === 'failed');
  const total = done.bytes + going.reduce((sum, line) => sum + line.bytes, 0);
  const sent = done.bytes + going.reduce((sum, line) => sum + line.sent, 0);
  const shown = [...failed, ...going].slice(0, MOST_LINES);
  return (
    <Box sx={{ mb: 2 }} aria-live="polite">
      {going.length > 0 && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mb: 0.5 }}>
          <Typography variant="body2" sx={{ color: token('soft') }}>
            {countWord(going.length, 'file')} to go; {bytes(sent)} of {bytes(total)} sent
          </Typography>
          <Box sx={{ flex: 1, maxWidth: 240 }}>
            <LinearProgress
              variant="determinate"
              value={total > 0 ? (100 * sent) / total : 0}
              aria-label="All files sent"
            />
          </Box>
          <Button size="small" onClick={paused ? uploads.resume : uploads.pause}>
            {paused ? 'Go on' : 'Pause'}
          </Button>
        </Box>
      )}
      {shown.map(({ key, name, bytes: size, sent: arrived, state, remark }) => (
        <Box key={key} sx={{ display: 'flex', alignItems: 'center', gap: 2, py: 0.5 }}>
          <Box sx={{ flex: 1, minWidth: 0, overflowWrap: 'anywhere' }}>
            {name}
            {remark && <Box sx={{ color: token('red'), fontSize: '0.8125rem' }}>{remark}</Box>}
          </Box>
          {state === 'failed' ? (
            <IconButton
              size="small"
              aria-label={`Put ${name} aside`}
              onClick={() => uploads.dismiss(key)}
            >
              <CloseIcon fontSize="small" />
            </IconButton>
          ) : (
            <Box sx={{ width: 220 }}>
              <LinearProgress
                variant="determinate"
                value={(100 * arrived) / size}
                aria-label={`${name} sent`}
              />
            </Box>
          )}
        </Box>
      ))}
      {lines.length > shown.length && (
        <Typography sx={{ color: token('soft'), fontSize: '0.8125rem' }}>
          and {lines.length - shown.length} more
        </Typography>
      )}
    </Box>
  );
}
