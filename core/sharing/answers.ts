// What people who look at a view link may say of a picture. It waits until somebody of the team accepts or refuses it.

interface AnswerFacts {
  /** On the page, as what one says. */
  label: string;
  /** Whether something is typed. */
  says: boolean;
  /** What accepting it does. */
  accept: string;
}

export const ANSWERS = {
  favourite: { label: 'It is one of my favourites', says: false, accept: 'Gather in a dossier' },
  remark: { label: 'A remark', says: true, accept: 'Add to the caption' },
  name: { label: 'I know who is in it', says: true, accept: 'Name the photo' },
  place: { label: 'I know where it was', says: true, accept: 'Take as place' },
} as const satisfies Record<string, AnswerFacts>;
export type AnswerKind = keyof typeof ANSWERS;
export const ANSWER_KINDS = Object.keys(ANSWERS) as [AnswerKind, ...AnswerKind[]];

/** Letters of an answer, and of who sends it. */
export const MAX_ANSWER = 1000;
export const MAX_SENDER = 100;
