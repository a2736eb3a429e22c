// The text in a picture over it: each line in its box, which takes it as caption, headline, title or term.

import { DropdownMenu } from 'radix-ui';
import { toast } from 'sonner';
import type { PictureText } from '@stellin/contract/pictureText';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { useFoundTerms } from '../parts/terms/queries';
import { usePictureText, useReadText } from './queries';

interface Props {
  photoId: number;
  /** Where the picture stands in its frame, in pixels of the screen. */
  place: { left: number; top: number; width: number; height: number };
}

const TAKEN_AS = { description: 'As caption', headline: 'As headline', title: 'As title' } as const;

export function TextBoxes({ photoId, place }: Props) {
  const { data } = usePictureText(photoId);
  const read = useReadText(photoId);
  const mayRead = useMayChange('setFields');
  if (!data) return null;
  const { left, top, width, height } = place;
  return (
    <>
      {data.lines.length > 0 && (
        <ul
          aria-label="Text in the picture"
          className="pointer-events-none absolute"
          style={{ left, top, width, height }}
        >
          {data.lines.map((line, i) => (
            <TextBox key={i} photoId={photoId} line={line} />
          ))}
        </ul>
      )}
      {data.lines.length === 0 && (
        <div
          role="status"
          className="absolute bottom-3 left-3 flex items-center gap-3 rounded border border-line bg-card px-3 py-1.5"
        >
          {read.isPending ? 'Reading …' : saidOf(data)}
          {mayRead && data.state !== 'read' && !read.isPending && (
            <Button onClick={() => read.mutate()}>Read the text</Button>
          )}
          {read.error && <span className="text-red">{read.error.message}</span>}
        </div>
      )}
    </>
  );
}

function saidOf({ state, problem }: PictureText): string {
  if (state === 'unread') return 'Nobody has read the text in this picture yet.';
  return state === 'read' ? 'No text is seen in this picture.' : `Its text can’t be read: ${problem}.`;
}

const percent = (part: number) => `${part * 100}%`;

function TextBox({ photoId, line: { text, box } }: { photoId: number; line: PictureText['lines'][number] }) {
  const mayChange = useMayChange('setFields');
  const change = useChange();
  const selection = { query: null, plus: [photoId] };
  const take = (target: keyof typeof TAKEN_AS) =>
    change.mutate({ kind: 'setFields', selection, edits: [{ target, mode: 'replace', value: text }] });
  const copy = () =>
    void navigator.clipboard.writeText(text).then(
      () => toast('Copied.'),
      () => toast('The browser does not let it be copied.'),
    );
  const { left, top, width, height } = box;
  return (
    <li>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger
          aria-label={text}
          title={text}
          className="pointer-events-auto absolute cursor-pointer border-2 border-spruce bg-spruce/10 hover:bg-spruce/25"
          style={{ left: percent(left), top: percent(top), width: percent(width), height: percent(height) }}
          onPointerDown={(event) => event.stopPropagation()}
        />
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            sideOffset={4}
            className="z-40 max-w-96 min-w-52 rounded-md border border-line bg-card p-1 text-[13px] shadow-lg"
          >
            <DropdownMenu.Label className="px-2.5 py-1 font-semibold">{text}</DropdownMenu.Label>
            {mayChange &&
              (Object.keys(TAKEN_AS) as (keyof typeof TAKEN_AS)[]).map((target) => (
                <DropdownMenu.Item key={target} className={ITEM} onSelect={() => take(target)}>
                  {TAKEN_AS[target]}
                </DropdownMenu.Item>
              ))}
            {mayChange && (
              <TermItems
                text={text}
                onGive={(termId) => change.mutate({ kind: 'giveTerms', selection, termIds: [termId] })}
              />
            )}
            <DropdownMenu.Item className={ITEM} onSelect={copy}>
              Copy
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </li>
  );
}

const ITEM = 'cursor-pointer rounded px-2.5 py-1 outline-none data-[highlighted]:bg-spruce-pale';
const TERMS_OFFERED = 3;

/** Terms that are called as the text says. */
function TermItems({ text, onGive }: { text: string; onGive: (termId: number) => void }) {
  const { data: terms = [] } = useFoundTerms(text, true, TERMS_OFFERED);
  return terms.map(({ id, label, path }) => (
    <DropdownMenu.Item key={id} className={ITEM} onSelect={() => onGive(id)}>
      As term “{label}” <span className="text-ink-2">{path.at(-1)}</span>
    </DropdownMenu.Item>
  ));
}
