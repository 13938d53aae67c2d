import { type ExperimentView, GOAL_WORDS, MOST_ARMS } from '@ruta/core/experiments';
import { namesFor } from '@ruta/core/offers';
import type { ShopView } from '@ruta/core/pricing';
import { Plus, Trash2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import { problemOf } from '../base/api';
import { useKeptDraft } from '../base/keptDraft';
import { newId } from '../base/newId';
import { ConditionEditor } from '../conditions/ConditionEditor';
import { funnelApi } from '../funnel/api';
import { Button, IconButton } from '../ui/Button';
import { DraftNotice } from '../ui/DraftNotice';
import { FormProblem, SelectField, TextArea, TextField } from '../ui/Field';
import { LeaveGuard } from '../ui/LeaveGuard';
import { Panel } from '../ui/Page';
import { experimentsApi } from './api';
import { evenShares, readDraft, type SettingsDraft, toDraft } from './settingsDraft';

/** What a test is about, what it wants more of, who is in it, and when it ends. */
export function SettingsPanel({ test, shop }: { test: ExperimentView; shop: ShopView }) {
  const [save, { isLoading, isSuccess }] = experimentsApi.useChangeExperimentMutation();
  const [problem, setProblem] = useState<string | null>(null);
  const { data: funnel } = funnelApi.useFunnelQuery(test.funnel.id);
  const form = useForm<SettingsDraft>({ defaultValues: toDraft(test) });
  const { register, control, handleSubmit, watch, setValue, setError, reset, formState } = form;
  const { fields, append, remove } = useFieldArray({ control, name: 'arms' });
  const { begun, setBegun, isBack, startOver } = useKeptDraft(`test ${test.id}`, form, test.revision, formState.isDirty);
  const { isDirty } = formState;
  // What was changed elsewhere stands as it is now, as long as nothing is typed here, or was before a reload.
  const shown = useRef(test.revision);
  useEffect(() => {
    if (isDirty || shown.current === test.revision) return;
    shown.current = test.revision;
    reset(toDraft(test));
    setBegun(test.revision);
  }, [test, isDirty, reset, setBegun]);
  const [goal, ends, audience, shares] = watch(['goal', 'ends', 'audience', 'arms']);
  const wrong = formState.errors;
  const sum = shares.reduce((total, { share }) => total + (Number(share) || 0), 0);
  const isRunning = test.state === 'running';

  async function send(draft: SettingsDraft) {
    setProblem(null);
    const read = readDraft(draft);
    const say = (errors: Record<string, string>) => {
      for (const [name, message] of Object.entries(errors)) {
        if (name === 'arms') setProblem(message);
        else setError(name as 'name', { message }, { shouldFocus: true });
      }
    };
    if ('errors' in read) return say(read.errors);
    try {
      const saved = await save({ id: test.id, begun, settings: read.settings }).unwrap();
      reset(toDraft(saved));
      setBegun(saved.revision);
    } catch (error) {
      const refusal = problemOf(error);
      if (refusal.errors.length > 0) say(Object.fromEntries(refusal.errors.map(({ path, message }) => [path, message])));
      else setProblem(refusal.title);
    }
  }

  const even = (count: number) => {
    evenShares(count).forEach((share, index) => {
      if (index < count) setValue(`arms.${index}.share`, String(share), { shouldDirty: true });
    });
  };
  const addArm = () => {
    const letter = String.fromCharCode('A'.charCodeAt(0) + fields.length);
    append({ armId: newId('arm'), name: letter, share: '1' });
    even(fields.length + 1);
  };

  return (
    <Panel title={isRunning ? 'Settings of the next round' : 'How it is tested'}>
      <DraftNotice shown={isBack} onStartOver={startOver} />
      <form noValidate className="grid gap-4" onSubmit={handleSubmit(send)} aria-label="Settings of the test">
        <div className="grid sm:grid-cols-2 gap-4 items-start">
          <TextField label="Name" maxLength={80} error={wrong.name?.message} {...register('name')} />
          <SelectField label="What it wants more of" {...register('goal')}>
            {Object.entries(GOAL_WORDS).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </SelectField>
        </div>
        <TextArea label="What it is to find out" hint="Why you think so. It stands with the result later." rows={2} maxLength={400} {...register('question')} />
        <div className="grid sm:grid-cols-3 gap-4 items-start">
          <TextField
            label="Difference hoped for, in %"
            hint={goal === 'revenue' ? 'Of revenue per visitor, relative.' : 'Of the rate, relative: 10 % of 20 % is 2 %.'}
            inputMode="decimal"
            error={wrong.change?.message}
            {...register('change')}
          />
          <SelectField label="It ends" {...register('ends')}>
            <option value="decision">as soon as it is decided</option>
            <option value="date">on its last day</option>
          </SelectField>
          <TextField
            label="Last day"
            type="date"
            hint={ends === 'date' ? 'Ends when this day is over.' : 'At the latest. Empty: when it is decided.'}
            error={wrong.lastDay?.message}
            {...register('lastDay')}
          />
        </div>
        <fieldset>
          <legend className="font-semibold mb-1">Arms, and the share of visitors each gets</legend>
          <ul className="grid gap-2">
            {fields.map((field, index) => (
              <li key={field.id} className="grid grid-cols-[minmax(0,1fr)_7rem_2rem] gap-3 items-start">
                <TextField
                  label={index === 0 ? 'Original' : `Arm ${index + 1}`}
                  maxLength={60}
                  error={wrong.arms?.[index]?.name?.message}
                  {...register(`arms.${index}.name`)}
                />
                <TextField label="Share in %" inputMode="numeric" error={wrong.arms?.[index]?.share?.message} {...register(`arms.${index}.share`)} />
                {index > 0 && fields.length > 2 ? (
                  <IconButton
                    name={`Take away ${shares[index]?.name ?? 'this arm'}`}
                    className="mt-7"
                    onClick={() => {
                      remove(index);
                      even(fields.length - 1);
                    }}
                  >
                    <Trash2 size={16} />
                  </IconButton>
                ) : null}
              </li>
            ))}
          </ul>
          <p className="mt-2 flex flex-wrap items-center gap-3">
            <Button look="quiet" disabled={fields.length >= MOST_ARMS} onClick={addArm}>
              <Plus size={16} aria-hidden="true" /> Another arm
            </Button>
            <Button look="quiet" onClick={() => even(fields.length)}>
              Even shares
            </Button>
            <span className={`figures ${sum === 100 ? 'text-soft' : 'text-stop font-semibold'}`}>{sum} % in all</span>
          </p>
        </fieldset>
        {funnel ? (
          <div>
            <p className="font-semibold mb-1">Who is in the test</p>
            <ConditionEditor
              label="Who is in the test"
              value={audience}
              onChange={(condition) => setValue('audience', condition, { shouldDirty: true })}
              names={namesFor(funnel, shop.settings.currency)}
              currency={shop.settings.currency}
            />
          </div>
        ) : null}
        <FormProblem>{problem}</FormProblem>
        <div className="flex items-center gap-3">
          <Button look="main" type="submit" disabled={isLoading}>
            Save
          </Button>
          {isSuccess && !isDirty ? (
            <span role="status" className="text-go font-semibold">
              Saved{isRunning ? '. It counts from the next round on' : ''}
            </span>
          ) : null}
        </div>
      </form>
      <LeaveGuard active={isDirty} />
    </Panel>
  );
}
