import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { Result } from '@/steps/results/service';
import { FACES, token } from '@/ui/tokens';
import type { Fold } from './fold';

/** Which number the key has to give. */
function numberOf({ fromPack, fromFile }: Result): string {
  if (fromFile) return 'was kept when the file was brought in; nobody was shown it before';
  return fromPack ? 'stands in the pack' : 'listeners were shown before they answered';
}

/** The key, its check, and everything that can be taken away. */
export function SealAndFiles({ comparisonId, result }: { comparisonId: string; result: Result }) {
  const base = `/api/comparisons/${comparisonId}/sittings/${result.sittingId}`;
  return (
    <>
      <Typography sx={{ maxWidth: '76ch' }}>
        The key below {result.sealHolds ? 'gives the very' : 'does not give the'} number that{' '}
        {numberOf(result)}. {!result.sealHolds && 'Do not trust this result. '}
        Check it yourself: download the key and run <code>sha256sum</code> on the file.
      </Typography>
      <Box
        sx={{
          fontFamily: FACES.mono,
          fontSize: '0.8125rem',
          color: token(result.sealHolds ? 'green' : 'red'),
          my: 1,
          overflowWrap: 'anywhere',
        }}
      >
        {result.seal}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button variant="outlined" href={`${base}/files/key.json`}>
          Key (JSON)
        </Button>
        <Button variant="outlined" href={`${base}/files/answers.csv`}>
          All answers (CSV)
        </Button>
        {result.fromFile && (
          <Button variant="outlined" href={`${base}/files/brought-in.csv`}>
            The file as it came
          </Button>
        )}
        <Button variant="outlined" href={`${base}/files/answers.json`}>
          All answers and controls (JSON)
        </Button>
        <Button variant="outlined" href={`${base}/files/analysis.json`}>
          Analysis (JSON)
        </Button>
        <Button variant="outlined" href={`${base}/files/verdict.html`}>
          Verdict to send (HTML)
        </Button>
        <Button variant="outlined" href={`${base}/files/headline.py`}>
          Check it in Python
        </Button>
        <Button variant="outlined" href={`${base}/files/headline.R`}>
          Check it in R
        </Button>
      </Box>
      <Box component="details" sx={{ mt: 1.5 }}>
        <summary>The {result.clips.length} clips as they were sealed</summary>
        <Typography sx={{ fontSize: '0.875rem', color: token('soft'), maxWidth: '76ch', my: 0.5 }}>
          What every copy was made of, 32-bit float. The SHA-256 of each file stands in the key.
        </Typography>
        {result.clips.map(({ part, chain, sha256 }) => (
          <Box key={`${part} ${sha256}`} sx={{ fontSize: '0.875rem', py: 0.25 }}>
            Part {part}, {chain}:{' '}
            <Link href={`${base}/clips/${sha256}`} sx={{ fontFamily: FACES.mono }}>
              {sha256.slice(0, 16)}…
            </Link>
          </Box>
        ))}
      </Box>
    </>
  );
}

export const files: Fold = {
  id: 'files',
  title: () => 'Key and files',
  View: SealAndFiles,
};
