// Why is this photo (not) here? The query as a tree, each condition met or not, with what the photo says there.

import { Check, X } from 'lucide-react';
import { useDeferredValue, useState } from 'react';
import type { Explanation } from '@stellin/core/search/explaining';
import { replaceAt, turnAt, type QueryPath } from '@stellin/core/search/editing';
import { parseQuery, queryText } from '@stellin/core/search/language';
import { Dialog } from '../parts/Dialog';
import { useWhy } from './queries';
import { TextField } from '../parts/Field';

interface Props {
  query: string;
  show: (change: { query: string }) => void;
  /** The photo in focus; else one is named. */
  photoId: number | undefined;
  onClose: () => void;
}

const GROUPS: Partial<Record<Explanation['kind'], string>> = { all: 'all of', any: 'any of', not: 'not' };

export function WhyDialog({ query, show, photoId, onClose }: Props) {
  const [picked, setPicked] = useState(photoId);
  const [name, setName] = useState('');
  const typed = useDeferredValue(name.trim());
  const { data, error } = useWhy(query, typed === '' ? picked : typed);
  const why = data?.why;
  const change = (changed: ReturnType<typeof replaceAt>) => show({ query: queryText(changed) });
  const { query: tree } = parseQuery(query);
  return (
    <Dialog open wide onOpenChange={(open) => !open && onClose()} title="Why is this photo here, or not?">
      <TextField
        label="Another photo, by name or path"
        type="search"
        value={name}
        placeholder="SKM_2037.jpg"
        onChange={(event) => setName(event.target.value)}
        boxClass="h-8 font-mono text-[12px]"
      />
      {typed !== '' && error && <p className="mt-3 text-red">{error.message}</p>}
      {!why && data && data.candidates.length > 1 && (
        <>
          <p className="mt-3 text-ink-2">Several photos are called so:</p>
          <ul className="mt-1 max-h-40 overflow-y-auto">
            {data.candidates.map((candidate) => (
              <li key={candidate.photoId}>
                <button
                  type="button"
                  className="w-full px-1 py-0.5 text-left font-mono text-[12px] hover:bg-ground"
                  onClick={() => {
                    setPicked(candidate.photoId);
                    setName('');
                  }}
                >
                  {candidate.path}
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      {!why && picked === undefined && typed === '' && (
        <p className="mt-3 text-ink-2">Choose a photo on the sheet, or name one that you miss.</p>
      )}
      {why && (
        <div className="mt-3" data-testid="why">
          <p className="font-mono text-[12px] break-all">{why.path}</p>
          <p className={`mt-1 font-semibold ${why.shown ? 'text-spruce' : 'text-red'}`}>
            {why.shown ? 'The result shows it.' : 'The result does not show it.'}
          </p>
          {why.remark && <p className="mt-1 rounded bg-amber-pale px-3 py-1.5 text-amber">{why.remark}</p>}
          {query === '' ? (
            <p className="mt-2 text-ink-2">Nothing is asked: all photos are shown.</p>
          ) : (
            <ul className="mt-2">
              <Node
                node={why.explanation}
                path={[]}
                inside={false}
                onDrop={(path) => change(replaceAt(tree, path, undefined))}
                onTurn={(path) => change(turnAt(tree, path))}
              />
            </ul>
          )}
        </div>
      )}
    </Dialog>
  );
}

interface NodeProps {
  node: Explanation;
  path: QueryPath;
  /** What a saved search asks is changed there, not here. */
  inside: boolean;
  onDrop: (path: QueryPath) => void;
  onTurn: (path: QueryPath) => void;
}

function Node({ node, path, inside, onDrop, onTurn }: NodeProps) {
  const group = GROUPS[node.kind];
  const isSaved = node.kind === 'criterion' && node.of.length > 0;
  return (
    <li>
      <div className="group flex items-baseline gap-2 rounded px-1 py-1 hover:bg-sheet">
        <span className={`flex w-16 shrink-0 items-center gap-1 text-[12px] ${node.met ? 'text-spruce' : 'text-red'}`}>
          {node.met ? <Check size={13} aria-hidden="true" /> : <X size={13} aria-hidden="true" />}
          {node.met ? 'met' : 'not met'}
        </span>
        {group ? (
          <span className="text-ink-2">{group}</span>
        ) : (
          <span className="font-mono text-[12px] font-semibold break-all">{node.text}</span>
        )}
        {!group && node.own !== '' && (
          <span className="min-w-0 flex-1 truncate text-ink-2" title={node.own}>
            says {node.own}
          </span>
        )}
        {!inside && node.kind !== 'everything' && (
          <span className="ml-auto flex shrink-0 gap-2 text-[12px]">
            <button
              type="button"
              className="text-slate hover:underline"
              aria-label={`Take off ${node.text}`}
              onClick={() => onDrop(path)}
            >
              take off
            </button>
            <button
              type="button"
              className="text-slate hover:underline"
              aria-label={`Turn round ${node.text}`}
              onClick={() => onTurn(path)}
            >
              turn round
            </button>
          </span>
        )}
      </div>
      {node.of.length > 0 && (
        <ul className="ml-6 border-l border-line pl-2">
          {node.of.map((part, i) => (
            <Node key={i} node={part} path={[...path, i]} inside={inside || isSaved} onDrop={onDrop} onTurn={onTurn} />
          ))}
        </ul>
      )}
    </li>
  );
}
