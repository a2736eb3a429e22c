// A picture that is drawn on copies: made small and without what it says of itself before it is kept with the settings.

import { MAX_WATERMARK_CHARACTERS } from '@stellin/contract/delivering';
import { showError } from '../foundation/changes';
import { Button } from '../parts/Button';
import { useFilePicker } from '../parts/useFilePicker';

interface Props {
  /** A PNG as a data URL; empty for none. */
  value: string;
  onChange: (picture: string) => void;
}

export function WatermarkPicture({ value, onChange }: Props) {
  const [field, open] = useFilePicker({
    label: 'Picture to be drawn on copies',
    accept: '.png,.webp,.jpg,.jpeg',
    onFiles: ([file]) => {
      if (file) void smallPicture(file).then(onChange).catch(showError);
    },
  });
  return (
    <div className="flex items-center gap-2">
      {value !== '' && (
        <img src={value} alt="The watermark" className="h-8 max-w-24 rounded bg-ground object-contain" />
      )}
      <Button onClick={open}>{value === '' ? 'A picture instead …' : 'Another picture …'}</Button>
      {value !== '' && (
        <Button look="quiet" onClick={() => onChange('')}>
          None
        </Button>
      )}
      {field}
    </div>
  );
}

const FIRST_EDGE = 1000;
const LEAST_EDGE = 50;

/** A picture as a PNG that is no longer than may be kept. Rejects with a sentence for what is no picture. */
async function smallPicture(file: File): Promise<string> {
  const picture = await createImageBitmap(file).catch(() => {
    throw new Error(`“${file.name}” is no picture that the browser can read.`);
  });
  for (let edge = FIRST_EDGE; edge >= LEAST_EDGE; edge *= 0.7) {
    const scale = Math.min(1, edge / Math.max(picture.width, picture.height));
    const canvas = document.createElement('canvas');
    canvas.width = Math.max(1, Math.round(picture.width * scale));
    canvas.height = Math.max(1, Math.round(picture.height * scale));
    canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
    const url = canvas.toDataURL('image/png');
    if (url.length <= MAX_WATERMARK_CHARACTERS) return url;
  }
  throw new Error(`“${file.name}” is too large to be drawn on others.`);
}
