// Naming an event: one entry that says it in a field, gives a term, fills the names of the place and gathers a dossier.

import { nameEdits } from '@stellin/core/describing/placing';
import { foldText } from '@stellin/core/text/words';
import type { FieldEdit } from '@stellin/core/describing/editing';
import { mayChange, type ChangeOf } from '@stellin/contract/ledger';
import { countText } from '@stellin/contract/wording';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import { StellinError } from '../errors';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';

interface NamingParts {
  vocabulary: VocabularyIndex;
  /** What the parts of it do by themselves. */
  steps: Pick<ChangeHandlers, 'addTerms' | 'proposeTerm' | 'giveTerms' | 'makeDossier' | 'setFields'>;
}

export function calendarChanges({ vocabulary, steps }: NamingParts): Pick<ChangeHandlers, 'nameEvent'> {
  return {
    async nameEvent({ selection, name, term, dossier, field, place }, context) {
      if (!term && !dossier && !field && !place)
        throw new StellinError('describingRefused', { why: 'nothing was chosen that the name is to be given to' });
      // All of it takes effect at the end: until then the query finds the same photos.
      const edits: FieldEdit[] = [
        ...(field ? [{ target: 'event', mode: 'fill', value: name } satisfies FieldEdit] : []),
        ...(place ? nameEdits(place, { way: 'fill', shown: false }) : []),
      ];
      if (edits.length > 0) await steps.setFields({ kind: 'setFields', selection, edits }, context);
      if (term) await giveTerm(name, term.parentId, selection, context);
      if (dossier)
        await steps.makeDossier(
          { kind: 'makeDossier', name, parentId: null, note: '', colour: '', selection },
          context,
        );
      return (photos) => `Name the event “${name}”: ${countText(photos, 'photo')}`;
    },
  };

  /** Gives photos the term that is called so; where there is none a new one, which is proposed by who may not add terms. */
  async function giveTerm(
    label: string,
    parentId: number | null,
    selection: ChangeOf<'nameEvent'>['selection'],
    context: ChangeContext,
  ): Promise<void> {
    const known = await labelled(label, context);
    if (known !== undefined) await steps.giveTerms({ kind: 'giveTerms', selection, termIds: [known] }, context);
    else if (mayChange(context.person, 'addTerms'))
      await steps.addTerms({ kind: 'addTerms', parentId, terms: [{ label }], selection }, context);
    else await steps.proposeTerm({ kind: 'proposeTerm', parentId, label, scopeNote: '', selection }, context);
  }

  /** The term that can be given and is called so. */
  async function labelled(label: string, { tx }: ChangeContext): Promise<number | undefined> {
    const { tree } = await vocabulary.locked(tx);
    const folded = foldText(label);
    for (const term of tree.all())
      if (!term.heading && !term.deprecated && foldText(term.label) === folded) return term.id;
    return undefined;
  }
}
