// All persons, with how often they are seen; each opens its page.

import { peopleRoutes } from '@stellin/contract/people';
import { useState } from 'react';
import { NavLink } from 'react-router';
import type { Person } from '@stellin/contract/people';
import { numberText } from '@stellin/contract/wording';
import { faceUrl } from '../foundation/api';
import { useMayCall, useMayChange } from '../foundation/session';
import { useChange } from '../foundation/changes';
import { useDragging } from '../parts/dragging/dragging';
import { Menu, MenuItem } from '../parts/Menu';
import { ForgetDialog } from './ForgetDialog';
import { matching } from './PersonPicker';
import { useNames, usePersons, useScanState } from './queries';
import { TextField } from '../parts/Field';

export function PersonList() {
  const { data } = usePersons();
  const { data: names } = useNames();
  const { data: scan } = useScanState();
  const [text, setText] = useState('');
  const [forgetting, setForgetting] = useState(false);
  const mayForget = useMayCall(peopleRoutes.forgetFaces);
  const maySettle = useMayCall(peopleRoutes.listLikenessGroups);
  const all = data?.persons ?? [];
  const shown = text.trim() === '' ? [...all].sort((a, b) => b.photos - a.photos) : matching(all, text);
  const open = names?.names.length ?? 0;
  const link = ({ isActive }: { isActive: boolean }) =>
    `flex items-center gap-2.5 rounded px-2 py-1 ${isActive ? 'bg-spruce-pale font-semibold' : 'hover:bg-card'}`;
  return (
    <nav aria-label="Persons" className="flex flex-col bg-sheet">
      {maySettle && (
        <div className="space-y-1 border-b border-line p-3">
          <NavLink to="/people" end className={link}>
            <span className="flex-1">Likeness groups</span>
          </NavLink>
          <NavLink to="/people/names" className={link}>
            <span className="flex-1">Names from files</span>
            {open > 0 && <span className="figures text-[12px] text-amber">{numberText(open)}</span>}
          </NavLink>
          <NavLink to="/people/like" className={link}>
            <span className="flex-1">Find by example</span>
          </NavLink>
        </div>
      )}
      <TextField
        label="Find a person"
        hideLabel
        type="search"
        placeholder="Find a person …"
        value={text}
        className="mx-3 mt-3"
        onChange={(event) => setText(event.target.value)}
      />
      <ul className="min-h-0 flex-1 overflow-y-auto p-2">
        {shown.map((person) => (
          <PersonRow key={person.id} person={person} link={link} />
        ))}
        {data && all.length === 0 && (
          <li className="px-2 py-1 text-ink-2">
            Nobody yet. Say who the faces at the right show, or settle the names that files bring.
          </li>
        )}
        {data && all.length > 0 && shown.length === 0 && <li className="px-2 py-1 text-ink-2">Nobody is called so.</li>}
      </ul>
      {scan && (
        <p className="figures flex items-center border-t border-line px-4 py-2 text-[12px] text-ink-2">
          <span className="flex-1">
            {numberText(scan.looked)} pictures looked at
            {scan.waiting > 0 && `, ${numberText(scan.waiting)} to go`}
          </span>
          {mayForget && scan.faces > 0 && (
            <Menu label="All faces">
              <MenuItem label="Delete all faces for good …" onSelect={() => setForgetting(true)} />
            </Menu>
          )}
        </p>
      )}
      {forgetting && scan && <ForgetDialog person={null} faces={scan.faces} onClose={() => setForgetting(false)} />}
    </nav>
  );
}

interface PersonRowProps {
  person: Person;
  link: (state: { isActive: boolean }) => string;
}

/** Faces are dropped on it: they show this person. */
function PersonRow({ person, link }: PersonRowProps) {
  const change = useChange();
  const mayChange = useMayChange('savePerson');
  const { ref, props, over } = useDragging(`person ${person.id}`, {
    takes: mayChange
      ? { faces: ({ ids }) => change.mutate({ kind: 'nameFaces', faceIds: ids, who: { personId: person.id } }) }
      : {},
  });
  return (
    <li ref={ref} {...props} className={over ? 'rounded outline-2 outline-offset-[-2px] outline-spruce' : ''}>
      <NavLink to={`/people/${person.id}`} className={link}>
        {person.coverFace === null ? (
          <span className="flex h-7 w-7 shrink-0 items-center justify-center rounded-full bg-ground text-[11px] text-ink-2">
            {person.name.slice(0, 1)}
          </span>
        ) : (
          <img src={faceUrl(person.coverFace)} alt="" draggable={false} className="h-7 w-7 shrink-0 rounded-full" />
        )}
        <span className="min-w-0 flex-1 truncate">
          {person.name}
          {person.private && <span className="text-ink-2"> · private</span>}
        </span>
        <span className="figures text-[12px] text-ink-2">{numberText(person.photos)}</span>
      </NavLink>
    </li>
  );
}
