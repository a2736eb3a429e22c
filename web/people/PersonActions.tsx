// Merging and removing a person, with what it touches said first.

import { peopleRoutes } from '@stellin/contract/people';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import type { Person } from '@stellin/contract/people';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useMayCall, useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { Menu, MenuItem } from '../parts/Menu';
import { ForgetDialog } from './ForgetDialog';
import { PersonPicker } from './PersonPicker';
import { usePersons } from './queries';

type Step = 'merge' | 'remove' | 'forget';

export function PersonActions({ person }: { person: Person }) {
  const [step, setStep] = useState<Step | null>(null);
  const mayForget = useMayCall(peopleRoutes.forgetFaces);
  const maySettle = useMayChange('mergePersons');
  if (!maySettle && !mayForget) return null;
  return (
    <>
      <Menu label={`More to do with ${person.name}`}>
        {maySettle && <MenuItem label="Merge into another person …" onSelect={() => setStep('merge')} />}
        {maySettle && <MenuItem label="Remove this person …" onSelect={() => setStep('remove')} />}
        {mayForget && <MenuItem label="Delete their faces for good …" onSelect={() => setStep('forget')} />}
      </Menu>
      {step === 'merge' && <Merge person={person} onClose={() => setStep(null)} />}
      {step === 'remove' && <Remove person={person} onClose={() => setStep(null)} />}
      {step === 'forget' && <ForgetDialog person={person} faces={person.faces} onClose={() => setStep(null)} />}
    </>
  );
}

interface Props {
  person: Person;
  onClose: () => void;
}

function Merge({ person, onClose }: Props) {
  const { data } = usePersons();
  const [intoId, setIntoId] = useState<number | null>(null);
  const change = useChange();
  const navigate = useNavigate();
  const into = data?.persons.find(({ id }) => id === intoId);
  return (
    <Dialog open onOpenChange={onClose} title={`Merge ${person.name} into …`}>
      <PersonPicker
        label="The person that stays"
        without={[person.id]}
        onlyKnown
        focusKey={1}
        onPick={(who) => 'personId' in who && setIntoId(who.personId)}
      />
      {into && (
        <div className="mt-3 space-y-3">
          <p className="rounded bg-amber-pale px-3 py-2 text-amber">
            {countText(person.faces, 'face')} and {countText(person.photos, 'photo')} of {person.name} become{' '}
            {into.name}’s; “{person.name}” stays as another name. Photos and saved searches say {into.name} from then
            on.
          </p>
          <Button
            look="primary"
            disabled={change.isPending}
            onClick={() =>
              change.mutate(
                { kind: 'mergePersons', personIds: [person.id], intoId: into.id },
                { onSuccess: () => void navigate(`/people/${into.id}`) },
              )
            }
          >
            Merge into {into.name}
          </Button>
        </div>
      )}
    </Dialog>
  );
}

function Remove({ person, onClose }: Props) {
  const change = useChange();
  const navigate = useNavigate();
  return (
    <Dialog open onOpenChange={onClose} title={`Remove ${person.name}?`}>
      <p className="rounded bg-amber-pale px-3 py-2 text-amber">
        {countText(person.faces, 'face')} will not be named any more, and the name goes out of what{' '}
        {countText(person.photos, 'photo')} say.
      </p>
      <div className="mt-3 flex gap-2">
        <Button
          look="primary"
          disabled={change.isPending}
          onClick={() =>
            change.mutate({ kind: 'removePerson', personId: person.id }, { onSuccess: () => void navigate('/people') })
          }
        >
          Remove {person.name}
        </Button>
        <Button look="quiet" onClick={onClose}>
          Not now
        </Button>
      </div>
    </Dialog>
  );
}
