'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { type ComparisonDraft, comparisonDraft } from '@/steps/comparisons/schema';
import { NextLink } from '@/ui/NextLink';
import { MarginNote, PageHeading } from '@/ui/Sheet';
import { StudioFrame } from '@/ui/StudioFrame';
import { useSend } from '@/ui/useSend';
import { useUnsaved } from '@/ui/useUnsaved';
import { ComparisonFields } from './ComparisonFields';
import { COMPARISONS } from '@/steps/comparisons/endpoints';

export function NewComparisonScreen({ name }: { name: string }) {
  const router = useRouter();
  const { send, busy } = useSend();
  const { register, handleSubmit, formState } = useForm<ComparisonDraft>({
    resolver: zodResolver(comparisonDraft),
    defaultValues: { title: '', question: '', sourceName: '', passageName: '' },
  });
  const [made, setMade] = useState(false);
  const question = useUnsaved(formState.isDirty && !made);
  const submit = async (draft: ComparisonDraft) => {
    const comparison = await send(COMPARISONS.start, {}, draft);
    if (!comparison) return;
    setMade(true);
    router.push(`/comparisons/${comparison.id}/chains`);
  };
  return (
    <StudioFrame
      name={name}
      margin={
        <MarginNote title="Next">
          Write the question down before anybody listens. Then name the chains and drop their takes.
        </MarginNote>
      }
    >
      {question}
      <PageHeading finding="What do you want to find out?" />
      <Box
        component="form"
        noValidate
        onSubmit={(event) => void handleSubmit(submit)(event)}
        sx={{ display: 'grid', gap: 2.5, maxWidth: 560 }}
      >
        <ComparisonFields register={register} errors={formState.errors} />
        <Box sx={{ display: 'flex', gap: 1 }}>
          <Button type="submit" variant="contained" disabled={busy}>
            Start
          </Button>
          <Button component={NextLink} href="/">
            Cancel
          </Button>
        </Box>
      </Box>
    </StudioFrame>
  );
}
