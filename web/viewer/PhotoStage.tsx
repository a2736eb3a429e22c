// One photo as the viewer shows it: on its stage with the boxes of faces, or in the player.

import { useState, type ComponentProps } from 'react';
import { isTimed, KIND_FACTS, type FileKind } from '@stellin/core/metadata/containers/kinds';
import type { Photo } from '@stellin/contract/photos';
import { Player } from '../media/Player';
import { FaceBoxes } from '../people/FaceBoxes';
import { usePhoto } from '../photos/queries';
import { TextBoxes } from '../pictureText/TextBoxes';
import { PageBar } from './PageBar';
import { Stage } from './Stage';

/** The kind of its file. What no kind is known of is none that is played. */
export const kindOf = ({ kind }: Photo) => (kind in KIND_FACTS ? (kind as FileKind) : undefined);

/** A photo on its stage, with the boxes of faces over it. */
export function PhotoStage({
  from,
  faces,
  faceId,
  onFace,
  drawing,
  onDrawn,
  naming,
  ...stage
}: ComponentProps<typeof Stage> & {
  from: number | undefined;
  faces: boolean;
  faceId: number | null;
  onFace: (id: number | null) => void;
  drawing: boolean;
  onDrawn: () => void;
  naming: number;
}) {
  const [page, setPage] = useState(1);
  const { data } = usePhoto(stage.photo.id);
  const kind = kindOf(stage.photo);
  if (isTimed(kind)) return <Player photo={stage.photo} from={from} />;
  const pages = kind && KIND_FACTS[kind].pages ? Number(data?.facts['pages'] ?? 1) : 1;
  return (
    <Stage
      {...stage}
      page={page}
      over={(place) =>
        pages > 1 ? (
          <PageBar page={page} pages={pages} onPage={setPage} />
        ) : stage.aids?.words ? (
          <TextBoxes photoId={stage.photo.id} place={place} />
        ) : (
          (faces || drawing) && (
            <FaceBoxes
              photoId={stage.photo.id}
              place={place}
              chosen={faceId}
              onChoose={onFace}
              drawing={drawing}
              onDrawn={onDrawn}
              focusKey={naming}
            />
          )
        )
      }
    />
  );
}
