// What accepting answers does: the change of the ledger for each kind. Favourites of one sender are gathered together.

import type { AnswerKind } from '@stellin/core/sharing/answers';
import type { ChangeInput } from '@stellin/contract/ledger';
import type { LinkAnswer } from '@stellin/contract/sharing';

/** Answers that are settled in one step. */
export interface AnswerGroup {
  key: string;
  kind: AnswerKind;
  answers: readonly LinkAnswer[];
}

/** Favourites by who sent them through which link; every other answer by itself. In the order given. */
export function groupsOf(answers: readonly LinkAnswer[]): AnswerGroup[] {
  const groups = new Map<string, LinkAnswer[]>();
  for (const answer of answers) {
    const key = answer.kind === 'favourite' ? `${answer.link}\n${answer.sender}` : String(answer.id);
    groups.set(key, [...(groups.get(key) ?? []), answer]);
  }
  return [...groups].flatMap(([key, all]) => (all[0] ? [{ key, kind: all[0].kind, answers: all }] : []));
}

const CHANGES: Record<AnswerKind, (answers: readonly LinkAnswer[], first: LinkAnswer) => ChangeInput> = {
  favourite: (answers, { sender, link }) => ({
    kind: 'makeDossier',
    name: `Favourites of ${sender}: ${link}`.replaceAll('/', '-').slice(0, 200),
    selection: of(answers),
  }),
  remark: (answers, { text }) => field('description', 'add', text, answers),
  place: (answers, { text }) => field('sublocation', 'replace', text, answers),
  name: (answers, { text }) => ({ kind: 'namePhotos', selection: of(answers), who: { name: text } }),
};

export function changeFor({ kind, answers }: AnswerGroup): ChangeInput | undefined {
  const [first] = answers;
  return first && CHANGES[kind](answers, first);
}

const of = (answers: readonly LinkAnswer[]) => ({
  query: null,
  plus: [...new Set(answers.map(({ photoId }) => photoId))],
});

function field(
  target: 'description' | 'sublocation',
  mode: 'add' | 'replace',
  value: string,
  answers: readonly LinkAnswer[],
): ChangeInput {
  return { kind: 'setFields', selection: of(answers), edits: [{ target, mode, value }] };
}
