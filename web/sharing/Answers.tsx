// What people who looked at view links said: accepted as what it is, or refused.

import { useState } from 'react';
import { Link } from 'react-router';
import { ANSWERS } from '@stellin/core/sharing/answers';
import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { TextField } from '../parts/Field';
import { dateTimeText } from '../parts/dateTimeText';
import { deskLink } from '../parts/deskLink';
import { RowPicture } from '../parts/RowPicture';
import { changeFor, groupsOf, type AnswerGroup } from './accepting';
import { useAnswers, useSettleAnswers } from './queries';

const PICTURES_SHOWN = 8;

export function Answers() {
  const { data = [] } = useAnswers();
  const groups = groupsOf(data);
  if (groups.length === 0) return null;
  return (
    <section aria-label="Answers" className="mb-5">
      <h2 className="mb-1 font-title text-[15px] font-semibold">
        Answers <span className="figures font-normal text-ink-2">{countText(data.length, 'answer')} to settle</span>
      </h2>
      <ul className="divide-y divide-line rounded border border-line bg-card">
        {groups.map((group) => (
          <Answer key={group.key} group={group} />
        ))}
      </ul>
    </section>
  );
}

function Answer({ group }: { group: AnswerGroup }) {
  const { kind, answers } = group;
  const [first] = answers;
  const [words, setWords] = useState(first?.text ?? '');
  const change = useChange();
  const settle = useSettleAnswers();
  const mayAccept = useMayChange('setFields');
  if (!first) return null;
  const { sender, link, at } = first;
  const ids = answers.map(({ id }) => id);
  const { says, accept, label } = ANSWERS[kind];
  const take = () => {
    // As it was corrected here.
    const made = changeFor({ ...group, answers: answers.map((answer) => ({ ...answer, text: words.trim() })) });
    if (made) change.mutate(made, { onSuccess: () => settle.mutate({ ids, accepted: true }) });
  };
  const photos = queryText(criterion('photos', answers.map(({ photoId }) => photoId).join(' ')));
  return (
    <li className="flex items-center gap-3 px-3 py-2" aria-label={`${label}, from ${sender}`}>
      <Link to={deskLink(photos)} aria-label="On the Desk" className="flex shrink-0 gap-1">
        {answers.slice(0, PICTURES_SHOWN).map(({ id, photoId, previewVersion }) => (
          <RowPicture key={id} photoId={photoId} previewVersion={previewVersion} />
        ))}
      </Link>
      <div className="min-w-0 flex-1">
        <p>
          <b>{sender}</b>: {label}
          {kind === 'favourite' && answers.length > 1 && ` (${countText(answers.length, 'picture')})`}
        </p>
        <p className="text-[12px] text-ink-2">
          {link} · {dateTimeText(at)}
        </p>
      </div>
      {says && (
        <TextField
          label="In words"
          hideLabel
          className="w-96 max-w-[40%]"
          boxClass="h-8"
          value={words}
          onChange={({ target }) => setWords(target.value)}
        />
      )}
      {mayAccept && (
        <Button onClick={take} disabled={change.isPending || (says && words.trim() === '')}>
          {accept}
        </Button>
      )}
      <Button look="quiet" onClick={() => settle.mutate({ ids, accepted: false })}>
        Refuse
      </Button>
    </li>
  );
}
