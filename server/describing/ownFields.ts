// The fields that projects have made for themselves, as the field sets say, and what their values are chosen from.

import type { OwnField } from '@stellin/core/describing/ownFields';
import { customName } from '@stellin/core/describing/targets';
import { compareLabels, type TermTree } from '@stellin/core/vocabulary/tree';
import { fieldSetShape, type FieldSetEntry } from '@stellin/contract/describing';
import type { FieldSetRow } from './store';

/** The values to choose from: those that stand there, then the terms of the branch. */
export function offeredChoices({ choices, branch }: FieldSetEntry, tree: TermTree): string[] {
  const below = branch === null ? new Set<number>() : tree.below(branch);
  const labels = [...below].flatMap((id) => (id === branch ? [] : (tree.get(id)?.label ?? [])));
  return [...new Set([...choices, ...labels.sort(compareLabels)])];
}

/** Own fields by name. Where several sets have one of a name, what may be chosen in any of them may be. */
export function ownFieldsOf(sets: readonly FieldSetRow[], tree: TermTree): OwnField[] {
  const fields = new Map<string, OwnField>();
  for (const set of sets)
    for (const entry of fieldSetShape.parse(set).entries) {
      const name = customName(entry.target);
      if (name === undefined) continue;
      const offered = offeredChoices(entry, tree);
      const known = fields.get(name);
      // Where nothing is offered anything may be said.
      const isOpen = offered.length === 0 || known?.choices.length === 0;
      const choices = isOpen ? [] : [...new Set([...(known?.choices ?? []), ...offered])];
      fields.set(name, { name, kind: known?.kind ?? entry.kind, choices });
    }
  return [...fields.values()];
}

/** The first field of a set that another set has as another kind, with the name of that set. */
export function otherKind(
  entries: readonly FieldSetEntry[],
  others: readonly FieldSetRow[],
): { name: string; set: string } | undefined {
  for (const other of others)
    for (const known of fieldSetShape.parse(other).entries) {
      const name = customName(known.target);
      if (name === undefined) continue;
      if (entries.some(({ target, kind }) => target === known.target && kind !== known.kind))
        return { name, set: other.name };
    }
  return undefined;
}
