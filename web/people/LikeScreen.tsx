// Find by example: faces like one, or like the one in a picture from elsewhere. From here they are named, or gathered.

import { useDeferredValue, useState } from 'react';
import { useSearchParams } from 'react-router';
import { faceUrl } from '../foundation/api';
import { showError } from '../foundation/changes';
import { LikeForm, requestBody, USUAL_REQUEST, type LikeRequest } from './LikeForm';
import { LikeResult } from './LikeResult';
import { PeopleFrame } from './PeopleFrame';
import { useLike } from './queries';
import { Failed } from '../parts/Queried';

/** A request is at most two megabytes, and base64 takes a third more. */
const MAX_PICTURE_BYTES = 1_400_000;

interface Picture {
  /** Base64. */
  data: string;
  name: string;
  url: string;
}

export function LikeScreen() {
  const [address] = useSearchParams();
  const faceId = Number(address.get('face') ?? 0);
  const [picture, setPicture] = useState<Picture | null>(null);
  const [request, setRequest] = useState<LikeRequest>({ ...USUAL_REQUEST, query: address.get('q') ?? '' });
  const example = picture ? { picture: picture.data } : faceId > 0 ? { faceId } : null;
  const asked = useDeferredValue(JSON.stringify(example && { ...example, ...requestBody(request) }));
  const found = useLike(JSON.parse(asked) as Parameters<typeof useLike>[0]);
  const { data, isFetching } = found;
  const take = (file: File | undefined) => {
    if (!file) return;
    if (file.size > MAX_PICTURE_BYTES)
      return showError(new Error(`${file.name} is larger than 1.4 MB. Make it smaller first.`));
    const reader = new FileReader();
    reader.onload = () => {
      const url = String(reader.result);
      setPicture({ data: url.slice(url.indexOf(',') + 1), name: file.name, url });
    };
    reader.readAsDataURL(file);
  };
  const face = faceId > 0 ? { url: faceUrl(faceId), name: 'The face that others are to be like' } : null;
  return (
    <PeopleFrame>
      <div
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault();
          take(event.dataTransfer.files[0]);
        }}
      >
        <h1 className="font-title text-[19px] font-semibold">Find by example</h1>
        <LikeForm example={picture ?? face} request={request} onChange={setRequest} onPicture={take} />
        <Failed query={found} />
        {!example && (
          <p className="mt-3 max-w-160 text-ink-2">
            Double-click any face on these screens, or press L on it. A picture can be dropped here as well; it is
            looked at on this machine and not kept.
          </p>
        )}
        {example && data && <LikeResult key={picture?.url ?? faceId} faces={data.faces} isFetching={isFetching} />}
      </div>
    </PeopleFrame>
  );
}
