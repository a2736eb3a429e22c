// A form for fields that have members: contact, locations, artworks, persons with details … made from the field table.

import { useState } from 'react';
import { fieldText } from '@stellin/core/metadata/fieldText';
import type { Field, FieldValue, Member } from '@stellin/core/metadata/fields';
import { normalValue, textsOf } from '@stellin/core/metadata/values';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { TextField } from '../parts/Field';

interface Props {
  shape: Field;
  value: FieldValue | null;
  onSet: (value: FieldValue | null) => void;
  onClose: () => void;
}

type Item = Record<string, FieldValue>;

export function StructDialog({ shape, value, onSet, onClose }: Props) {
  const [items, setItems] = useState<Item[]>(() => itemsOf(value, shape.list === undefined));
  const members = shape.members?.() ?? [];
  const [at, setAt] = useState(0);
  const item = items[at];
  const set = (id: string, given: FieldValue | undefined) =>
    setItems(items.map((each, i) => (i === at ? withMember(each, id, given) : each)));
  const remove = () => {
    setItems(items.filter((_, i) => i !== at));
    setAt(Math.max(0, at - 1));
  };
  const submit = () => {
    const normal = normalValue(shape.list ? items : (items[0] ?? null));
    onSet(normal ?? null);
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={shape.label} wide>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          event.stopPropagation();
          submit();
        }}
      >
        {shape.list && (
          <div className="mb-3 flex flex-wrap items-center gap-2" role="group" aria-label="Entries">
            {items.map((each, i) => (
              <button
                key={i}
                type="button"
                aria-pressed={i === at}
                className={`h-7 max-w-56 truncate rounded border px-2.5 ${i === at ? 'border-spruce bg-spruce-pale' : 'border-line'}`}
                onClick={() => setAt(i)}
              >
                {i + 1} {textsOf(Object.values(each)[0])[0] ?? ''}
              </button>
            ))}
            <Button
              onClick={() => {
                setItems([...items, {}]);
                setAt(items.length);
              }}
            >
              Add
            </Button>
            {item && (
              <Button look="quiet" onClick={remove}>
                Remove this one
              </Button>
            )}
          </div>
        )}
        {item ? (
          <div className="grid grid-cols-3 gap-x-4 gap-y-2" key={at}>
            {members.map((member) => (
              <MemberInput
                key={member.id}
                member={member}
                value={item[member.id]}
                onSet={(given) => set(member.id, given)}
              />
            ))}
          </div>
        ) : (
          <p className="text-ink-2">Nothing is said. Add an entry.</p>
        )}
        <FormActions onCancel={onClose} action="Put this into the form" disabled={false} />
      </form>
    </Dialog>
  );
}

function itemsOf(value: FieldValue | null, single: boolean): Item[] {
  const list = value === null ? [] : Array.isArray(value) ? value : [value];
  const items = list.filter((each): each is Item => typeof each === 'object' && !Array.isArray(each));
  return items.length === 0 && single ? [{}] : items;
}

function withMember(item: Item, id: string, value: FieldValue | undefined): Item {
  const others = { ...item };
  if (value === undefined) delete others[id];
  else others[id] = value;
  return others;
}

/** Lists of texts are typed with `; ` between. What lies deeper is kept as it is. */
function MemberInput({
  member,
  value,
  onSet,
}: {
  member: Member;
  value: FieldValue | undefined;
  onSet: (value: FieldValue | undefined) => void;
}) {
  const several = typeof value === 'object' && !Array.isArray(value) && member.type === 'langAlt';
  const [text, setText] = useState(value === undefined ? '' : several ? (textsOf(value)[0] ?? '') : fieldText(value));
  const deeper = member.type === 'struct';
  return (
    <TextField
      label={member.label}
      boxClass="h-7"
      readOnly={deeper}
      value={text}
      title={deeper ? 'Kept as it is' : undefined}
      onChange={(event) => {
        const typed = event.target.value;
        setText(typed);
        onSet(valueOf(member, typed, several ? value : undefined));
      }}
    />
  );
}

function valueOf(member: Member, typed: string, languages: FieldValue | undefined): FieldValue | undefined {
  if (typed.trim() === '') return undefined;
  if (member.list) return typed.split(/\s*;\s*/).filter(Boolean);
  if (member.type === 'number') return Number.isFinite(Number(typed)) ? Number(typed) : typed;
  return typeof languages === 'object' && !Array.isArray(languages) ? { ...languages, 'x-default': typed } : typed;
}
