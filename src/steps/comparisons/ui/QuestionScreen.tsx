'use client';

import { zodResolver } from '@hookform/resolvers/zod';
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { useSnackbar } from 'notistack';
import { type ReactNode, useEffect } from 'react';
import { type Control, Controller, useFieldArray, useForm, useWatch } from 'react-hook-form';
import { USUAL_CRITERIA } from '@/core/decision/criteria';
import { CAPTURE_METHODS } from '@/core/checks/set/set-check';
import { COMPARISONS } from '@/steps/comparisons/endpoints';
import { TOLD_APART } from '@/core/design/told-apart';
import { type Comparison, CONTEXTS, type Source } from '@/steps/comparisons/schema';
import { day } from '@/ui/format';
import { PageHeading } from '@/ui/Sheet';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { useUndo } from '@/ui/useUndo';
import { useUnsaved } from '@/ui/useUnsaved';
import { ComparisonFields } from './ComparisonFields';
import { briefOf, draftsOf, formOf, type QuestionForm, questionForm } from './question-form';
import { HELD, type QuestionFold } from './question-held';

/** A piece of the question, folded under its title and what it holds; open where something in it is wrong. */
function Part({
  title,
  hint,
  fold,
  control,
  chains,
  wrong,
  children,
}: {
  title: string;
  hint?: string;
  fold: QuestionFold;
  control: Control<QuestionForm>;
  chains: { id: string; name: string }[];
  wrong: boolean;
  children: ReactNode;
}) {
  const form = useWatch({ control }) as QuestionForm;
  const held = HELD[fold](form, (id) => chains.find((chain) => chain.id === id)?.name ?? '');
  return (
    <Box
      component="details"
      // Else it is the browser's: what somebody opened before the script ran stays open.
      open={wrong || undefined}
      sx={{ mt: 2, pb: 1, borderBottom: `1px solid ${token('hair')}` }}
    >
      <Box component="summary" sx={{ cursor: 'pointer' }}>
        <Typography component="h2" variant="h2" sx={{ display: 'inline' }}>
          {title}
        </Typography>
        <Typography
          component="span"
          sx={{ display: 'block', color: token('soft'), fontSize: '0.875rem', pl: 2.25 }}
        >
          {held}
        </Typography>
      </Box>
      {hint && (
        <Typography sx={{ color: token('soft'), fontSize: '0.875rem', maxWidth: '76ch', mt: 1 }}>
          {hint}
        </Typography>
      )}
      <Box sx={{ display: 'grid', gap: 2, mt: 1.5, mb: 1 }}>{children}</Box>
    </Box>
  );
}

function Row({ children }: { children: ReactNode }) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { sm: 'repeat(3, 1fr)' }, gap: 2 }}>
      {children}
    </Box>
  );
}

export function QuestionScreen({
  comparison,
  sources,
  chains,
  locked,
  sealed,
}: {
  comparison: Comparison;
  /** Its own first. */
  sources: Source[];
  chains: { id: string; name: string }[];
  /** Whether an open sitting holds the question, its contexts, what would count as nothing and the prediction. */
  locked: boolean;
  /** What was sealed of them, and when. */
  sealed: ReactNode;
}) {
  const { send, busy } = useSend();
  const router = useRouter();
  const { enqueueSnackbar } = useSnackbar();
  const offerUndo = useUndo();
  const { register, control, handleSubmit, formState, reset } = useForm<QuestionForm>({
    resolver: zodResolver(questionForm),
    defaultValues: formOf(comparison, sources),
  });
  const further = useFieldArray({ control, name: 'furtherSources' });
  const criteria = useFieldArray({ control, name: 'criteria' });
  const { isDirty, errors } = formState;
  const question = useUnsaved(isDirty);
  const { version, brief, id } = comparison;
  // What another window wrote is shown, but never over what is being typed here.
  useEffect(() => {
    reset(formOf(comparison, sources), { keepDirtyValues: true });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the version stands for the content
  }, [version]);
  const folded = { control, chains };
  const look = locked ? { color: token('soft'), bgcolor: token('wash') } : undefined;
  const fixed = { input: { readOnly: locked, sx: look }, select: { readOnly: locked } };
  const submit = async (form: QuestionForm) => {
    const whole = briefOf(form, brief);
    const drafts = draftsOf(form, sources[0]!);
    if (!whole.success || !drafts.success) {
      const issues = [...(whole.error?.issues ?? []), ...(drafts.error?.issues ?? [])];
      enqueueSnackbar(issues[0]!.message, { variant: 'error' });
      return;
    }
    const { title, question, passageName } = form;
    const body = { title, question, passageName, sources: drafts.data, brief: whole.data, version };
    if (!(await send(COMPARISONS.change, { id }, body))) return;
    reset(form);
    enqueueSnackbar('Saved.');
  };
  const copy = async () => {
    const made = await send(COMPARISONS.copy, { id });
    if (made) router.push(`/comparisons/${made.id}/question`);
  };
  const remove = async () => {
    if (!(await send(COMPARISONS.remove, { id }))) return;
    router.push('/');
    offerUndo(`“${comparison.title}” is removed.`, (again) => again(COMPARISONS.restore, { id }));
  };
  const number = (
    name:
      | 'levelAt1MDb'
      | 'crestDb'
      | 'roomNoiseDba'
      | 'budget'
      | 'smallestSharePct'
      | 'headphoneMinutes'
      | 'temperatureC',
    label: string,
    hint: string,
  ) => (
    <TextField
      label={label}
      slotProps={name === 'smallestSharePct' ? fixed : undefined}
      error={Boolean(errors[name])}
      helperText={errors[name]?.message ?? hint}
      {...register(name)}
    />
  );
  return (
    <>
      {question}
      <PageHeading
        finding={comparison.title}
        aside="Written before anybody listens."
        action={
          <>
            <Button variant="outlined" disabled={busy} onClick={() => void copy()}>
              Copy the plan
            </Button>
            <Button
              component="a"
              variant="outlined"
              download
              href={`/api/comparisons/${id}/archive`}
              disabled={locked}
              title={
                locked
                  ? 'While a sitting is open, clips under the names of their chains stay here.'
                  : 'Everything of this comparison in a folder: sound, answers, seals'
              }
            >
              Export
            </Button>
            <Button disabled={busy} onClick={() => void remove()} sx={{ color: token('red') }}>
              Remove the comparison
            </Button>
          </>
        }
      />
      <Box
        component="form"
        noValidate
        onSubmit={(event) => void handleSubmit(submit)(event)}
        sx={{ maxWidth: 820, pb: 8 }}
      >
        <Box sx={{ display: 'grid', gap: 2.5 }}>
          <ComparisonFields
            register={register}
            errors={errors}
            fixed={
              locked
                ? {
                    slotProps: fixed,
                    helperText: 'Sealed with the open sitting until that is closed.',
                  }
                : undefined
            }
          />
        </Box>
        <Part
          title="How loud it is"
          fold="loudness"
          {...folded}
          wrong={
            Boolean(errors.levelAt1MDb) || Boolean(errors.crestDb) || Boolean(errors.roomNoiseDba)
          }
          hint="From these the gain ladder works out level, noise and headroom of each chain. Leave open what you do not know."
        >
          <Row>
            {number(
              'levelAt1MDb',
              'Level at 1 m, dB SPL',
              'Average; a quiet voice is about 65, a loud one 85',
            )}
            {number('crestDb', 'Peaks over average, dB', 'Voices and instruments 12 to 20')}
            {number('roomNoiseDba', 'Noise of the room, dBA', 'A quiet studio is under 25')}
          </Row>
        </Part>
        <Part
          title="How it is recorded"
          fold="recording"
          {...folded}
          wrong={Boolean(errors.temperatureC)}
          hint="All at once is the default: nobody performs twice, so chains alone differ. One after another holds the spot and needs two takes of each chain; replayed repeats exactly, through a loudspeaker."
        >
          <Row>
            <Controller
              control={control}
              name="capture"
              render={({ field }) => (
                <TextField select label="Captured" {...field}>
                  {CAPTURE_METHODS.map((method) => (
                    <MenuItem key={method} value={method}>
                      {method}
                    </MenuItem>
                  ))}
                </TextField>
              )}
            />
            {number(
              'temperatureC',
              'Room temperature, °C',
              'For distances from delays; 20 when open',
            )}
          </Row>
        </Part>
        <Part
          title="Further sources and passages"
          fold="further"
          {...folded}
          wrong={Boolean(errors.furtherSources)}
          hint="Whoever else is recorded through the same chains."
        >
          {further.fields.map((field, i) => (
            <Box
              key={field.id}
              sx={{ display: 'grid', gridTemplateColumns: { sm: '1fr 2fr 170px auto' }, gap: 2 }}
            >
              <TextField
                label={`Source ${i + 2}`}
                error={Boolean(errors.furtherSources?.[i]?.name)}
                helperText={errors.furtherSources?.[i]?.name?.message}
                {...register(`furtherSources.${i}.name`)}
              />
              <TextField label="Its passages" {...register(`furtherSources.${i}.passages`)} />
              <Controller
                control={control}
                name={`furtherSources.${i}.capture`}
                render={({ field: own }) => (
                  <TextField select label="Captured" {...own}>
                    {CAPTURE_METHODS.map((method) => (
                      <MenuItem key={method} value={method}>
                        {method}
                      </MenuItem>
                    ))}
                  </TextField>
                )}
              />
              <Button onClick={() => further.remove(i)} aria-label={`Remove source ${i + 2}`}>
                Remove
              </Button>
            </Box>
          ))}
          <Box>
            <Button
              size="small"
              variant="outlined"
              onClick={() =>
                further.append({ sourceId: '', name: '', passages: '', capture: 'at once' })
              }
            >
              Add a source
            </Button>
          </Box>
          <Controller
            control={control}
            name="contexts"
            render={({ field }) => (
              <Box
                role="group"
                aria-label="Contexts"
                sx={{ display: 'flex', flexWrap: 'wrap', gap: 1 }}
              >
                {CONTEXTS.map((context) => (
                  <FormControlLabel
                    key={context}
                    label={context}
                    control={
                      <Checkbox
                        checked={field.value.includes(context)}
                        disabled={locked}
                        onChange={(_, on) =>
                          field.onChange(
                            CONTEXTS.filter((one) =>
                              one === context ? on : field.value.includes(one),
                            ),
                          )
                        }
                      />
                    }
                  />
                ))}
              </Box>
            )}
          />
        </Part>
        <Part
          title="What decides"
          fold="decides"
          {...folded}
          wrong={Boolean(errors.budget) || Boolean(errors.mustHaves) || Boolean(errors.criteria)}
          hint="Practical marks are given with open eyes and kept apart from what is heard."
        >
          <Row>{number('budget', 'Budget, €', 'For all that would be bought')}</Row>
          <TextField
            label="Must-haves, one to a line"
            multiline
            minRows={2}
            helperText="A chain without one of these is out, however it sounds."
            {...register('mustHaves')}
          />
          {criteria.fields.map((field, i) => (
            <Box
              key={field.id}
              sx={{ display: 'grid', gridTemplateColumns: { sm: '2fr 1fr auto' }, gap: 2 }}
            >
              <Controller
                control={control}
                name={`criteria.${i}.name`}
                render={({ field: { value, onChange, onBlur, ref } }) => (
                  <Autocomplete
                    freeSolo
                    options={USUAL_CRITERIA.map((usual) => usual.name)}
                    inputValue={value}
                    onInputChange={(_, text) => onChange(text)}
                    renderInput={(parameters) => (
                      <TextField
                        {...parameters}
                        inputRef={ref}
                        onBlur={onBlur}
                        label={`Criterion ${i + 1}`}
                      />
                    )}
                  />
                )}
              />
              <Controller
                control={control}
                name={`criteria.${i}.weight`}
                render={({ field: weight }) => (
                  <TextField select label="Weight" {...weight}>
                    {['1', '2', '3', '4', '5'].map((mark) => (
                      <MenuItem key={mark} value={mark}>
                        {mark}
                      </MenuItem>
                    ))}
                  </TextField>
                )}
              />
              <Button onClick={() => criteria.remove(i)} aria-label={`Remove criterion ${i + 1}`}>
                Remove
              </Button>
            </Box>
          ))}
          <Box>
            <Button
              size="small"
              variant="outlined"
              onClick={() => criteria.append({ name: '', weight: '3' })}
            >
              Add a criterion
            </Button>
          </Box>
        </Part>
        {sealed}
        <Part
          title="What would count as nothing"
          fold="nothing"
          {...folded}
          wrong={Boolean(errors.nullHypothesis) || Boolean(errors.smallestSharePct)}
        >
          <TextField
            label="Null hypothesis"
            multiline
            slotProps={fixed}
            placeholder="The dearer preamp makes no difference that our panel can hear on this voice."
            helperText="State it so that it can fail, and try to keep it."
            {...register('nullHypothesis')}
          />
          <Row>
            {number(
              'smallestSharePct',
              'Smallest difference that matters',
              'Preferred how often of 100? 60 is slight, 75 is clear',
            )}
          </Row>
        </Part>
        <Part
          title="Your prediction"
          fold="prediction"
          {...folded}
          wrong={Boolean(errors.predictionRemark)}
          hint={`Written down before listening, scored when results are read. ${brief.predictedAt ? `Last changed ${day(brief.predictedAt)}.` : ''}`}
        >
          <Row>
            <Controller
              control={control}
              name="favouriteChainId"
              render={({ field }) => (
                <TextField
                  select
                  label="The panel will prefer"
                  slotProps={fixed}
                  {...field}
                  value={chains.some(({ id: one }) => one === field.value) ? field.value : ''}
                >
                  <MenuItem value="">no guess</MenuItem>
                  {chains.map((chain) => (
                    <MenuItem key={chain.id} value={chain.id}>
                      {chain.name}
                    </MenuItem>
                  ))}
                </TextField>
              )}
            />
            <Controller
              control={control}
              name="toldApart"
              render={({ field }) => (
                <TextField select label="They can be told apart" slotProps={fixed} {...field}>
                  <MenuItem value="">no guess</MenuItem>
                  {TOLD_APART.map((word) => (
                    <MenuItem key={word} value={word}>
                      {word}
                    </MenuItem>
                  ))}
                </TextField>
              )}
            />
          </Row>
          <TextField label="Why" multiline slotProps={fixed} {...register('predictionRemark')} />
        </Part>
        <Part
          title="While working"
          fold="working"
          {...folded}
          wrong={Boolean(errors.headphoneMinutes)}
          hint="For the cautions."
        >
          <Row>
            {number(
              'headphoneMinutes',
              'Longest headphone work, minutes',
              'Recording, matching and listening',
            )}
          </Row>
          <Box>
            {(
              [
                ['overPeople', 'A stand reaches over people'],
                ['plosiveTest', 'Plosives are tested'],
              ] as const
            ).map(([name, label]) => (
              <Controller
                key={name}
                control={control}
                name={name}
                render={({ field }) => (
                  <FormControlLabel
                    label={label}
                    control={
                      <Checkbox checked={field.value} onChange={(_, on) => field.onChange(on)} />
                    }
                  />
                )}
              />
            ))}
          </Box>
        </Part>
        <Box
          sx={{
            position: 'sticky',
            bottom: 0,
            py: 1.5,
            mt: 3,
            bgcolor: token('sheet'),
            borderTop: `1px solid ${token('hair')}`,
          }}
        >
          <Button type="submit" variant="contained" disabled={busy || !isDirty}>
            Save
          </Button>
        </Box>
      </Box>
    </>
  );
}
