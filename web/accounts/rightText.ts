// Rights in words.

import type { RightPlaceKind, TeamOverview, TeamRight } from '@stellin/contract/team';

/** As people choose them: a right in a project is one in its dossier. */
export type ChosenKind = RightPlaceKind | 'project';

/** What kinds of places there are for a right, as a choice. */
export const PLACE_KINDS: Readonly<Record<ChosenKind, string>> = {
  catalogue: 'the whole catalogue',
  project: 'a project',
  drive: 'a drive',
  folder: 'a folder and what is below it',
  dossier: 'a dossier and those below it',
  search: 'what a saved search finds',
};

const PLACES: Readonly<Record<ChosenKind, (name: string) => string>> = {
  catalogue: () => 'everywhere',
  project: (name) => `in the project ${name}`,
  drive: (name) => `on the drive ${name}`,
  folder: (name) => `in the folder ${name}`,
  dossier: (name) => `in the dossier ${name}`,
  search: (name) => `in what “${name}” finds`,
};

/** Where a right is: “in the dossier Loans”. */
export function placeText({ place, placeName, project }: Pick<TeamRight, 'place' | 'placeName' | 'project'>): string {
  if (place.kind !== 'catalogue' && placeName === null) return 'in something that is gone';
  return PLACES[project ? 'project' : place.kind](placeName ?? '');
}

/** A right as one line: “Cataloguer in the dossier Loans”. */
export function rightText(right: TeamRight, { roles }: Pick<TeamOverview, 'roles'>): string {
  const role = roles.find(({ id }) => id === right.roleId);
  return `${role?.name ?? ''} ${placeText(right)}`;
}

/** The rights of an account or a team, its own only. */
export function rightsOf({ rights }: TeamOverview, kind: TeamRight['holder']['kind'], id: number): TeamRight[] {
  return rights.filter(({ holder }) => holder.kind === kind && holder.id === id);
}
