import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { list } from '@/core/statistics/words';
import { token } from '@/ui/tokens';
import { Method } from '../sections/cells';
import type { FoldProps } from './fold';

/** What listeners wrote beside their answers. */
export function Remarks({ result: { remarks }, parts }: Pick<FoldProps, 'result' | 'parts'>) {
  if (remarks.length === 0) return null;
  return (
    <>
      <Typography component="h3" variant="h3" sx={{ mt: 2 }}>
        In their own words
      </Typography>
      <Box component="ul" sx={{ listStyle: 'none', m: 0, p: 0, maxWidth: '86ch' }}>
        {remarks.map(({ listener, part, position, chains, text, namesGear }) => (
          <Box
            component="li"
            key={`${listener} ${position}`}
            sx={{ py: 0.75, borderBottom: `1px solid ${token('hair')}`, breakInside: 'avoid' }}
          >
            “{text}”
            <Box
              component="span"
              sx={{ display: 'block', color: token('soft'), fontSize: '0.8125rem' }}
            >
              {listener}, {parts.length > 1 ? `part ${part}, ` : ''}trial {position}: {list(chains)}
              {namesGear && ' · names gear'}
            </Box>
          </Box>
        ))}
      </Box>
      <Method>
        Written beside an answer, before anybody knew which recording was which, and read by nobody
        before the sitting was closed. Of a trial, not of one chain, and never counted. “Names
        gear”: whoever wrote it believed to recognise something.
      </Method>
    </>
  );
}
