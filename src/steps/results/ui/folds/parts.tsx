import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { TASKS } from '@/core/tasks';
import type { ResultPart } from '@/steps/results/service';
import { countWord } from '@/ui/format';
import { Note } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { DisclosureButton } from '../Disclosure';
import { SECTION_VIEWS } from '../sections';
import type { Fold, FoldProps } from './fold';

/** Everything that one part says. */
function PartResult({ part, chains }: { part: ResultPart; chains: string[] }) {
  const { analysis, findings, controls, claimed } = part;
  const ends = TASKS[part.task].line?.ends ?? null;
  return (
    <>
      {findings.detail && (
        <Typography sx={{ maxWidth: '76ch', mb: 1 }}>{findings.detail}</Typography>
      )}
      {analysis.warnings.map(({ code, section, message }) => (
        <Note key={`${section} ${code}`} kind="caution">
          {message.charAt(0).toUpperCase() + message.slice(1)}.
        </Note>
      ))}
      {Object.entries(SECTION_VIEWS).map(([id, View]) => (
        <View
          key={id}
          {...{ results: analysis.results, chains, findings, controls, claimed, ends }}
        />
      ))}
    </>
  );
}

function Parts({ parts, result, folds }: FoldProps) {
  return parts.map((part) => {
    const id = `part-${part.number}`;
    const open = folds.isOpen(id);
    return (
      <Box key={id} sx={{ borderTop: `1px solid ${token('hair')}`, py: 0.75 }}>
        <DisclosureButton id={id} open={open} onToggle={() => folds.toggle(id)}>
          {part.findings.headline}
        </DisclosureButton>
        <Typography sx={{ color: token('soft'), fontSize: '0.875rem', pl: 2.5 }}>
          {part.primary ? 'The primary part' : 'Part'} {part.number} of {parts.length}, “
          {part.prompt}”, {part.heard}.
        </Typography>
        {open && (
          <Box
            id={id}
            component="section"
            aria-label={`Part ${part.number}`}
            sx={{ pl: 2.5, pt: 1 }}
          >
            <PartResult part={part} chains={result.chains} />
          </Box>
        )}
      </Box>
    );
  });
}

export const parts: Fold = {
  id: 'parts',
  title: ({ parts: all }) => countWord(all.length, 'part'),
  View: Parts,
};
