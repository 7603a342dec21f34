'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { type ReactNode, useState } from 'react';
import type { BlindPack } from '@/steps/match/pack-store';
import { ConfirmDialog } from '@/ui/ConfirmDialog';
import { day } from '@/ui/format';
import { FACES, token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { MATCH } from '@/steps/match/endpoints';

function save(text: string, fileName: string): void {
  const url = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  URL.revokeObjectURL(url);
}

/** Coded clips to give away: a zip whose key stays here, sealed. */
export function PackPanel({
  comparisonId,
  clipSetId,
  packs,
  answers,
}: {
  comparisonId: string;
  clipSetId: string;
  packs: BlindPack[];
  /** What takes in the answers to each pack. */
  answers: Record<string, ReactNode>;
}) {
  const { send, busy } = useSend();
  const [question, setQuestion] = useState('Which recording suits this part better?');
  const [opening, setOpening] = useState<string | null>(null);
  const own = packs.filter((pack) => pack.clipSetId === clipSetId);
  const open = async (packId: string) => {
    setOpening(null);
    const key = await send(MATCH.openPackKey, { id: comparisonId, packId });
    if (key) save(key.document, 'key.json');
  };
  return (
    <Box component="details" sx={{ mt: 3 }}>
      <Box component="summary" sx={{ cursor: 'pointer', color: token('pen') }}>
        Give these clips away blind
      </Box>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', my: 1, maxWidth: '72ch' }}>
        A zip of coded WAV files with a manifest and a text that says how to check it, readable
        without Zeitbank. The key stays here; its seal is in the pack, so that it can be shown later
        that nothing was changed. Answers that come back in its sheet are imported here, or read at
        the command line: <code>./zeitbank analyze answers.csv --key key.json</code>.
      </Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'center' }}>
        <TextField
          label="Question to listeners"
          value={question}
          onChange={({ target }) => setQuestion(target.value)}
          slotProps={{ htmlInput: { maxLength: 200 } }}
          sx={{ flex: '1 1 320px', maxWidth: 520 }}
        />
        <Button
          variant="outlined"
          disabled={busy || question.trim() === ''}
          onClick={() =>
            void send(MATCH.makePack, { id: comparisonId, setId: clipSetId }, { question })
          }
        >
          Make a pack
        </Button>
      </Box>
      {own.map(({ id, createdAt, openedAt, seal }) => (
        <Box
          key={id}
          sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'center', mt: 1.5 }}
        >
          <Box sx={{ flex: '1 1 300px', fontSize: '0.875rem', overflowWrap: 'anywhere' }}>
            Pack of {day(createdAt)}, {openedAt ? `key opened ${day(openedAt)}` : 'key sealed'}
            <Box sx={{ fontFamily: FACES.mono, fontSize: '0.75rem', color: token('soft') }}>
              {seal}
            </Box>
          </Box>
          <Button component="a" href={`/api/comparisons/${comparisonId}/packs/${id}/zip`} download>
            Download the pack
          </Button>
          {answers[id]}
          <Button onClick={() => (openedAt ? void open(id) : setOpening(id))}>
            {openedAt ? 'Key' : 'Open the key'}
          </Button>
        </Box>
      ))}
      <ConfirmDialog
        open={opening !== null}
        title="Open the key of this pack?"
        text="Whoever reads it is no longer blind. That it was opened, and when, is written down here."
        action="Open the key"
        onBack={() => setOpening(null)}
        onConfirm={() => {
          if (opening) void open(opening);
        }}
      />
    </Box>
  );
}
