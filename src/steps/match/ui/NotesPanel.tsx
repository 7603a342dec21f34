'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { useState } from 'react';
import { MATCH } from '@/steps/match/endpoints';
import type { ClipNote } from '@/steps/match/schema';
import { clock, day } from '@/ui/format';
import type { PlayerState, SyncPlayer } from '@/ui/player/engine';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';

/** What the engineer notes while listening: of the clip that sounds or of all, with the loop that runs. */
export function NotesPanel({
  ids,
  clips,
  namesSeen,
  notes,
  lookerId,
  player,
  state,
}: {
  ids: { id: string; setId: string };
  /** In the order of the player. */
  clips: { chainId: string; name: string }[];
  /** Whether the names are shown; notes, which have them, are put away with them. */
  namesSeen: boolean;
  notes: ClipNote[];
  lookerId: string;
  player: SyncPlayer;
  state: PlayerState;
}) {
  const { send, busy } = useSend();
  const [text, setText] = useState('');
  const [ofAll, setOfAll] = useState(false);
  const [from, to] = state.loopS;
  const looped = from > 0 || to < state.lengthS - 0.01;
  const sounding = clips[state.selected];
  const nameOf = (chainId: string | null) =>
    chainId === null
      ? 'all of them'
      : (clips.find((clip) => clip.chainId === chainId)?.name ?? 'a chain that is gone');
  const keep = async () => {
    const chainId = ofAll ? null : (sounding?.chainId ?? null);
    const loopS = looped ? ([from, to] as [number, number]) : null;
    const note = { chainId, loopS, namesSeen, note: text };
    if ((await send(MATCH.addNote, ids, note)) !== null) setText('');
  };
  const go = ({ chainId, fromS, toS }: ClipNote) => {
    player.setLoop(fromS ?? 0, toS ?? state.lengthS);
    const at = clips.findIndex((clip) => clip.chainId === chainId);
    void player.select(at < 0 ? state.selected : at);
  };
  return (
    <Box sx={{ mt: 2 }}>
      <Box
        component="form"
        sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'center' }}
        onSubmit={(event) => {
          event.preventDefault();
          void keep();
        }}
      >
        <TextField
          size="small"
          label={`Note on ${ofAll ? 'all of them' : (sounding?.name ?? 'the clip')}${looped ? `, ${clock(from)} to ${clock(to)}` : ''}`}
          value={text}
          slotProps={{ htmlInput: { maxLength: 500 } }}
          onChange={({ target }) => setText(target.value)}
          sx={{ flex: '1 1 360px' }}
        />
        <FormControlLabel
          label="on all"
          control={<Checkbox checked={ofAll} onChange={(_, on) => setOfAll(on)} />}
        />
        <Button type="submit" variant="outlined" disabled={busy || text.trim() === ''}>
          Save the note
        </Button>
      </Box>
      {namesSeen && notes.length > 0 && (
        <Box component="ul" aria-label="Notes" sx={{ listStyle: 'none', m: 0, p: 0, mt: 1 }}>
          {notes.map((note) => (
            <Box
              component="li"
              key={note.id}
              sx={{
                display: 'flex',
                alignItems: 'center',
                gap: 1,
                py: 0.5,
                borderBottom: `1px solid ${token('hair')}`,
              }}
            >
              <Box sx={{ flex: 1, minWidth: 0 }}>
                <b>{nameOf(note.chainId)}</b>: {note.note}
                <Typography
                  component="span"
                  sx={{ display: 'block', color: token('soft'), fontSize: '0.8125rem' }}
                >
                  {note.author}, {day(note.at)}, {note.namesSeen ? 'by name' : 'names hidden'}
                  {note.fromS !== null && `, ${clock(note.fromS)} to ${clock(note.toS ?? 0)}`}
                </Typography>
              </Box>
              <Button size="small" onClick={() => go(note)}>
                Hear it
              </Button>
              {note.accountId === lookerId && (
                <IconButton
                  size="small"
                  aria-label={`Delete the note on ${nameOf(note.chainId)}: ${note.note}`}
                  disabled={busy}
                  onClick={() => void send(MATCH.removeNote, { ...ids, noteId: note.id })}
                >
                  <DeleteOutlineIcon fontSize="small" />
                </IconButton>
              )}
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}
