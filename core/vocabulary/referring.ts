// How files refer to the terms of a photo besides flat keywords: by their paths (mwg-kw:Keywords, MWG 2.0, section 5.8) and by
// their addresses (Iptc4xmpExt:AboutCvTerm). What other programs wrote there stays.

import type { FieldValue } from '../metadata/fields';
import type { Term, Vocabulary } from './term';
import type { TermTree } from './tree';

type Struct = { [member: string]: FieldValue };

/**
 * The keyword hierarchy of a file for the given terms. `existing` is what it says now, of which the paths that end in one of
 * `ours` (labels that we write or have written) are left out. Undefined when nothing is left to say.
 */
export function hierarchyOf(
  tree: TermTree,
  given: readonly number[],
  existing: FieldValue | undefined,
  ours: ReadonlySet<string>,
): FieldValue | undefined {
  const roots = structs(isStruct(existing) ? existing['Hierarchy'] : undefined).flatMap((node) =>
    withoutOurs(node, ours),
  );
  for (const path of given.flatMap((id) => pathOf(tree, id))) put(roots, path);
  return roots.length > 0 ? { Hierarchy: roots } : undefined;
}

/** References to the given terms by their addresses, behind those to terms of other vocabularies. Undefined when there are none. */
export function aboutOf(
  tree: TermTree,
  vocabularies: readonly Vocabulary[],
  given: readonly number[],
  existing: FieldValue | undefined,
): FieldValue | undefined {
  const uris = new Set(vocabularies.map(({ uri }) => uri).filter(Boolean));
  const terms = given.flatMap((id) => tree.get(id) ?? []).filter(isWritten);
  const own = new Set(terms.map(({ uri }) => uri));
  const others = structs(existing).filter(
    ({ CvId, CvTermId }) => !uris.has(textOf(CvId)) && !own.has(textOf(CvTermId)),
  );
  const about = terms.flatMap((term): Struct[] => {
    if (term.uri === '') return [];
    const top = tree.path(term.id)[0];
    const uri = vocabularies.find(({ id }) => id === top?.vocabularyId)?.uri ?? '';
    return [{ ...(uri ? { CvId: uri } : {}), CvTermId: term.uri, CvTermName: term.label }];
  });
  const all = [...others, ...about];
  return all.length > 0 ? all : undefined;
}

/** Labels from the top down; without broader ones where the term's rule says so, none where it is not written at all. */
function pathOf(tree: TermTree, id: number): string[][] {
  const path = tree.path(id);
  const term = path.at(-1);
  if (!term || !isWritten(term)) return [];
  return [term.writeBroader ? path.map(({ label }) => label) : [term.label]];
}

function isWritten(term: Term): boolean {
  return !term.heading && term.status === 'accepted' && term.writeSelf;
}

function put(nodes: Struct[], [label, ...below]: readonly string[]): void {
  if (label === undefined) return;
  let node = nodes.find((each) => each['Keyword'] === label);
  if (!node) {
    node = { Keyword: label };
    nodes.push(node);
  }
  if (below.length === 0) {
    node['Applied'] = true;
    return;
  }
  const children = structs(node['Children']);
  put(children, below);
  node['Children'] = children;
}

/** A branch without the keywords that are ours; nothing when none is left in it. */
function withoutOurs(node: Struct, ours: ReadonlySet<string>): Struct[] {
  const children = structs(node['Children']).flatMap((child) => withoutOurs(child, ours));
  // Leaves are meant even where that is not said.
  const isLeaf = structs(node['Children']).length === 0;
  const applied =
    (node['Applied'] === true || (isLeaf && node['Applied'] === undefined)) && !ours.has(textOf(node['Keyword']));
  if (!applied && children.length === 0) return [];
  const { Applied: _applied, Children: _children, ...rest } = node;
  return [{ ...rest, ...(applied ? { Applied: true } : {}), ...(children.length > 0 ? { Children: children } : {}) }];
}

function structs(value: FieldValue | undefined): Struct[] {
  return Array.isArray(value) ? value.filter(isStruct).map((item) => ({ ...item })) : [];
}

function isStruct(value: FieldValue | undefined): value is Struct {
  return typeof value === 'object' && !Array.isArray(value);
}

function textOf(value: FieldValue | undefined): string {
  return typeof value === 'string' ? value : '';
}
