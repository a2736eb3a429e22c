// Events in a part of the calendar: photos that hang together by time and place, to be looked at and named.

import { useState } from 'react';
import type { FoundEvent } from '@stellin/contract/calendar';
import { countText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { Queried } from '../parts/Queried';
import { RowPicture } from '../parts/RowPicture';
import { spanText } from './calendarText';
import { EventDialog } from './EventDialog';
import { useEvents } from './queries';

interface Props {
  query: string;
  part: string;
  mayName: boolean;
  onShow: (query: string) => void;
}

export function Events({ query, part, mayName, onShow }: Props) {
  const events = useEvents(query, part);
  const [naming, setNaming] = useState<FoundEvent | null>(null);
  return (
    <aside aria-labelledby="events" className="flex w-[22rem] shrink-0 flex-col border-l border-line bg-card">
      <h2 id="events" className="px-3 pt-2 font-title text-[15px] font-semibold">
        Events
      </h2>
      <p className="px-3 pb-2 text-[12px] text-ink-2">Photos that hang together by time and place.</p>
      <Queried query={events} pending={<p className="px-3 text-ink-2">Looking for gaps …</p>}>
        {(found) =>
          found.length === 0 ? (
            <p className="px-3 text-ink-2">None is found here.</p>
          ) : (
            <ul className="min-h-0 flex-1 overflow-y-auto">
              {found.map((event) => (
                <li key={event.query} className="flex items-center gap-2 border-t border-line px-3 py-1.5">
                  <RowPicture photoId={event.photoId} previewVersion={event.previewVersion} />
                  <div className="min-w-0 flex-1">
                    <button
                      type="button"
                      className="block max-w-full truncate text-left text-slate hover:underline"
                      onClick={() => onShow(event.query)}
                    >
                      {spanText(event.from, event.to)}
                    </button>
                    <p className="truncate text-[12px] text-ink-2">
                      {countText(event.photos, 'photo')}
                      {event.place && `, ${event.place}`}
                    </p>
                  </div>
                  {mayName && (
                    <Button aria-label={`Name ${spanText(event.from, event.to)}`} onClick={() => setNaming(event)}>
                      Name …
                    </Button>
                  )}
                </li>
              ))}
            </ul>
          )
        }
      </Queried>
      {naming && <EventDialog event={naming} onClose={() => setNaming(null)} />}
    </aside>
  );
}
