// Projects in words.

import type { Project } from '@stellin/contract/projects';

/** From when to when: “2024-05 – 2024-09-30”; empty where nothing is said. */
export function spanText({ starts, ends }: Pick<Project, 'starts' | 'ends'>): string {
  if (starts === '' && ends === '') return '';
  if (ends === '') return `from ${starts}`;
  return starts === '' ? `until ${ends}` : `${starts} – ${ends}`;
}
