// The photos before and behind the one that is looked at, in a row: pressed to go to them.

import { BLOCK, useBlock, type Result } from '../photos/queries';
import { previewUrl } from '../foundation/api';

/** How many stand on either side. */
const REACH = 9;

interface Props {
  result: Result;
  position: number;
  total: number;
  onShow: (position: number) => void;
}

export function Neighbours({ result, position, total, onShow }: Props) {
  const first = Math.max(0, Math.min(position - REACH, total - 2 * REACH - 1));
  const last = Math.min(total - 1, first + 2 * REACH);
  const { data: before } = useBlock(result, Math.floor(first / BLOCK));
  const { data: behind } = useBlock(result, Math.floor(Math.max(0, last) / BLOCK));
  const places = Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => first + i);
  const photoAt = (at: number) =>
    (Math.floor(at / BLOCK) === Math.floor(first / BLOCK) ? before : behind)?.[at % BLOCK];
  return (
    <nav
      aria-label="Neighbours"
      data-not-printed
      className="flex h-14 shrink-0 items-center justify-center gap-1 overflow-hidden border-t border-line bg-sheet px-2"
    >
      {places.map((at) => {
        const photo = photoAt(at);
        return (
          <button
            key={at}
            type="button"
            tabIndex={-1}
            aria-label={photo?.name ?? 'Photo'}
            aria-current={at === position ? 'true' : undefined}
            title={photo?.name}
            className={`h-11 shrink-0 overflow-hidden bg-line bg-cover ${at === position ? 'outline-2 outline-offset-1 outline-spruce' : 'opacity-75 hover:opacity-100'}`}
            style={{ width: widthOf(photo?.width, photo?.height) }}
            onClick={() => onShow(at)}
          >
            {photo && photo.previewVersion > 0 && (
              <img
                src={previewUrl(photo.id, photo.previewVersion)}
                alt=""
                draggable={false}
                loading="lazy"
                className="h-full w-full object-cover"
              />
            )}
          </button>
        );
      })}
    </nav>
  );
}

const HEIGHT = 44;

/** As wide as its picture asks, but not so wide that few have room. */
function widthOf(width: number | null | undefined, height: number | null | undefined): number {
  const aspect = width && height ? width / height : 1.5;
  return Math.round(HEIGHT * Math.max(0.6, Math.min(1.6, aspect)));
}
