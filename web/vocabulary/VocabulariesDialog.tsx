// The vocabularies side by side: adding, naming, their language and order, removing empty ones.

import { Controller } from 'react-hook-form';
import { z } from 'zod';
import { changeSchema } from '@stellin/contract/ledger';
import type { Vocabulary } from '@stellin/contract/vocabulary';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';
import { useFormOf } from '../parts/useFormOf';
import { useVocabularies } from '../parts/terms/queries';
import { Checkbox } from '../parts/Checkbox';

export function VocabulariesDialog({ onClose }: { onClose: () => void }) {
  const { data } = useVocabularies();
  return (
    <Dialog open onOpenChange={onClose} title="Vocabularies" wide>
      <ul className="space-y-2">
        {data?.vocabularies.map((vocabulary) => (
          <Row key={`${vocabulary.id} ${JSON.stringify(vocabulary)}`} vocabulary={vocabulary} />
        ))}
        <Row vocabulary={null} />
      </ul>
    </Dialog>
  );
}

const { shape } = changeSchema('defineVocabulary');
const schema = z.object({
  name: shape.name,
  language: shape.language.unwrap(),
  note: shape.note.unwrap(),
  byHand: shape.byHand.unwrap(),
});

function Row({ vocabulary }: { vocabulary: Vocabulary | null }) {
  const { name, language, note, byHand } = vocabulary ?? { name: '', language: 'en', note: '', byHand: false };
  const { register, control, handleSubmit, reset, formState } = useFormOf(schema, { name, language, note, byHand });
  const change = useChange();
  const of = vocabulary ? `of ${vocabulary.name}` : 'of a new vocabulary';
  const { errors } = formState;
  return (
    <li className="rounded-md border border-line bg-card p-2.5">
      <form
        className="flex flex-wrap items-start gap-2"
        onSubmit={handleSubmit((facts) =>
          change.mutate(
            { kind: 'defineVocabulary', vocabularyId: vocabulary?.id ?? null, ...facts },
            { onSuccess: () => (vocabulary === null ? reset() : reset(facts)) },
          ),
        )}
      >
        <TextField
          label={`Name ${of}`}
          hideLabel
          placeholder="New vocabulary"
          className="w-52"
          boxClass="h-8 font-semibold"
          error={errors.name?.message}
          {...register('name')}
        />
        <TextField
          label={`Language ${of}`}
          hideLabel
          className="w-28"
          error={errors.language?.message}
          {...register('language', { setValueAs: (typed: string) => typed.trim() })}
        />
        <TextField
          label={`Note ${of}`}
          hideLabel
          placeholder="what it is for"
          className="min-w-40 flex-1"
          error={errors.note?.message}
          {...register('note')}
        />
        <Controller
          control={control}
          name="byHand"
          render={({ field }) => (
            <Checkbox checked={field.value} onChange={field.onChange} className="h-8 text-[12px]">
              top terms in an order made by hand
            </Checkbox>
          )}
        />
        <Button type="submit" look={vocabulary ? 'plain' : 'primary'} disabled={!formState.isDirty || change.isPending}>
          {vocabulary ? 'Save' : 'Add'}
        </Button>
        {vocabulary && vocabulary.terms === 0 && (
          <Button look="quiet" onClick={() => change.mutate({ kind: 'removeVocabulary', vocabularyId: vocabulary.id })}>
            Remove
          </Button>
        )}
      </form>
      {vocabulary && (
        <p className="mt-1 truncate text-[11px] text-ink-2">
          {countText(vocabulary.terms, 'term')} · {countText(vocabulary.levels, 'level')} ·{' '}
          <span className="font-mono">{vocabulary.uri}</span>
        </p>
      )}
    </li>
  );
}
