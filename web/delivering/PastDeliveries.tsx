// What has left, the latest first.

import type { Delivery } from '@stellin/contract/delivering';
import { dateTimeText } from '../parts/dateTimeText';
import { Queried } from '../parts/Queried';
import { useDeliveries } from './queries';

interface Props {
  shown: string | null;
  onShow: (id: string) => void;
}

export function PastDeliveries({ shown, onShow }: Props) {
  const deliveries = useDeliveries();
  return (
    <section aria-label="Deliveries" className="mt-3 border-t border-line">
      <h2 className="px-3 pt-3 pb-1 text-[12px] font-semibold text-ink-2">Deliveries</h2>
      <Queried query={deliveries}>
        {({ deliveries: all, total }) => (
          <ul>
            {all.map((delivery) => (
              <li key={delivery.id}>
                <button
                  type="button"
                  aria-pressed={delivery.id === shown}
                  className={`block w-full px-3 py-1.5 text-left ${delivery.id === shown ? 'bg-spruce-pale' : 'hover:bg-ground'}`}
                  onClick={() => onShow(delivery.id)}
                >
                  <span className="block truncate">{delivery.title}</span>
                  <span className="flex gap-2 text-[12px] text-ink-2">
                    {dateTimeText(delivery.at)}
                    <State delivery={delivery} />
                  </span>
                </button>
              </li>
            ))}
            {all.length === 0 && <li className="px-3 py-1 text-ink-2">Nothing has left yet.</li>}
            {total > all.length && (
              <li className="px-3 py-1 text-[12px] text-ink-2">and {total - all.length} before that</li>
            )}
          </ul>
        )}
      </Queried>
    </section>
  );
}

/** How far it is, in a word. */
function State({ delivery }: { delivery: Delivery }) {
  const { photos, written, skipped, failed, job, download, handover } = delivery;
  if (handover && handover.waiting > 0) return <span className="text-amber">{handover.waiting} came back</span>;
  if (failed > 0) return <span className="text-red">{failed} failed</span>;
  if (written + skipped === photos) return null;
  if (job?.state === 'waiting') return <span className="text-amber">waits for a drive</span>;
  if (job?.state === 'failed') return <span className="text-red">stopped</span>;
  return <span className="text-amber">{download ? 'to be downloaded' : 'on its way'}</span>;
}
