// The Details tab: what is known of the photo in focus, as the catalogue has it from the file.

import { clockText } from '@stellin/core/media/moments';
import { dateWords } from '@stellin/core/timeplace/dateWords';
import { fieldText } from '@stellin/core/metadata/fieldText';
import { FIELDS, type FieldId } from '@stellin/core/metadata/fields';
import type { PhotoDetails } from '@stellin/contract/photos';
import { Link } from 'react-router';
import { LinkMissing } from '../filing/LinkMissing';
import { dateTimeText } from '../parts/dateTimeText';
import { deskLink } from '../parts/deskLink';
import { Queried } from '../parts/Queried';
import { usePhoto } from '../photos/queries';
import { FileActions } from '../delivering/FileActions';

const FACT_LABELS: Record<string, string> = {
  make: 'Camera maker',
  model: 'Camera',
  lens: 'Lens',
  takenAt: 'Camera’s clock',
  exposureTime: 'Exposure',
  fNumber: 'Aperture',
  iso: 'ISO',
  focalLength: 'Focal length',
  latitude: 'Latitude',
  longitude: 'Longitude',
  altitude: 'Altitude',
  direction: 'Direction of view',
  offset: 'Time zone',
  exposureBias: 'Exposure bias',
  focalLength35: 'As on 35 mm film',
  flashFired: 'Flash',
  software: 'Software',
  duration: 'Length',
  pages: 'Pages',
  container: 'Container',
  codec: 'Codec',
  audioCodec: 'Codec of the sound',
  frameRate: 'Frame rate',
  variableFrameRate: 'Frame rate varies',
  bitRate: 'Bit rate',
  channels: 'Channels',
  sampleRate: 'Sample rate',
  timecode: 'Timecode',
  project: 'Project of the recording',
  scene: 'Scene',
  take: 'Take',
  tape: 'Tape',
  note: 'Note of the recorder',
  rotation: 'Turned',
  dynamicRange: 'Dynamic range',
  primaries: 'Primaries',
  bitDepth: 'Bits a channel',
  colour: 'Colours',
};

const FACT_TEXTS: Record<string, (value: number) => string> = {
  exposureTime: (seconds) => (seconds < 1 ? `1/${Math.round(1 / seconds)} s` : `${seconds} s`),
  fNumber: (number) => `f/${number}`,
  focalLength: (millimetres) => `${millimetres} mm`,
  latitude: (degrees) => degrees.toFixed(5),
  longitude: (degrees) => degrees.toFixed(5),
  altitude: (metres) => `${metres} m`,
  direction: (degrees) => `${degrees}°`,
  exposureBias: (steps) => `${steps > 0 ? '+' : ''}${Number(steps.toFixed(2))} EV`,
  focalLength35: (millimetres) => `${millimetres} mm`,
  duration: clockText,
  frameRate: (rate) => `${Number(rate.toFixed(2))} a second`,
  bitRate: (kilobits) => (kilobits < 1000 ? `${kilobits} kbit/s` : `${(kilobits / 1000).toFixed(1)} Mbit/s`),
  sampleRate: (hertz) => `${hertz / 1000} kHz`,
  rotation: (degrees) => `${degrees}° clockwise`,
};

const BYTES: Record<PhotoDetails['fixity']['state'], string> = {
  unread: 'not read yet to be compared later',
  unchanged: 'as they were taken in',
  ours: 'as we wrote them',
  others: 'as another program wrote them',
  damaged: 'damaged',
  missing: 'the file is missing',
};

function bytesText({ state, provenAt, problem }: PhotoDetails['fixity']): string {
  const compared = provenAt === null ? '' : `, read and compared ${dateTimeText(provenAt)}`;
  return `${BYTES[state]}${problem ? `: ${problem}` : ''}${compared}`;
}

/** Fields that are shown elsewhere: keywords among the terms, faces on the picture, the position with the camera’s facts. */
const LEFT_OUT = new Set<string>(['keywords', 'keywordHierarchy', 'regions', 'imageRegion', 'position']);

/** What is kept in a notation is shown in words beside it. */
const SHOWN: Readonly<Partial<Record<FieldId, (text: string) => string | undefined>>> = {
  dateUncertain: (text) => {
    const words = dateWords(text);
    return words === undefined || words === text ? undefined : `${words} (${text})`;
  },
};

export function DetailsTab({ photoId }: { photoId: number | undefined }) {
  const query = usePhoto(photoId);
  if (photoId === undefined) return <p className="p-3 text-ink-2">Choose a photo to see what is known of it.</p>;
  return <Queried query={query}>{(photo) => <Details photo={photo} />}</Queried>;
}

function Details({ photo }: { photo: PhotoDetails }) {
  const fields = FIELDS.flatMap(({ id, label }) => {
    const value = photo.fields[id];
    return value === undefined || LEFT_OUT.has(id)
      ? []
      : [
          {
            label,
            value: SHOWN[id]?.(fieldText(value)) ?? fieldText(value),
            differs: photo.disagreements.includes(id),
          },
        ];
  });
  const facts = Object.entries(photo.facts).flatMap(([name, value]) =>
    FACT_LABELS[name]
      ? [
          {
            label: FACT_LABELS[name],
            value: factText(name, value),
          },
        ]
      : [],
  );
  const file = [
    { label: 'File', value: photo.name, mono: true },
    { label: 'Folder', value: `${photo.driveLabel}${photo.folderPath ? `/${photo.folderPath}` : ''}`, mono: true },
    { label: 'Kind', value: photo.kind.toUpperCase() },
    {
      label: 'Size',
      value: `${photo.width ?? '?'} × ${photo.height ?? '?'} pixels, ${(photo.sizeBytes / 1e6).toFixed(1)} MB`,
    },
    { label: 'Bytes', value: bytesText(photo.fixity) },
    ...(photo.fixity.sha256 ? [{ label: 'SHA-256', value: photo.fixity.sha256, mono: true }] : []),
  ];
  return (
    <div className="grid grid-cols-[1.3fr_1fr_1fr] gap-6 p-3">
      <section>
        <Rows rows={fields} />
        {fields.length === 0 && <p className="text-ink-2">The file says nothing of itself.</p>}
      </section>
      <section>
        <Rows rows={facts} />
      </section>
      <section>
        <Rows rows={file} />
        <FileActions photo={photo} />
        {photo.missing && (
          <div className="mt-2 rounded bg-red-pale px-2.5 py-1.5 text-red">
            Its file is not where it was. <LinkMissing photo={photo} />
          </div>
        )}
        {photo.dossiers.length > 0 && (
          <div className="mt-2">
            <h3 className="text-[12px] font-semibold text-ink-2">In dossiers</h3>
            <ul>
              {photo.dossiers.map(({ id, path, query }) => (
                <li key={id}>
                  <Link to={`${deskLink(query)}&sort=hand`} className="text-slate hover:underline">
                    {path}
                  </Link>
                </li>
              ))}
            </ul>
          </div>
        )}
        {photo.doubles.length > 0 && (
          <div className="mt-2">
            <h3 className="text-[12px] font-semibold text-ink-2">The same picture</h3>
            <ul className="font-mono text-[12px]">
              {photo.doubles.map(({ photoId, path }) => (
                <li key={photoId} className="truncate" title={path}>
                  {path}
                </li>
              ))}
            </ul>
          </div>
        )}
        {photo.issues.length > 0 && (
          <p className="mt-2 rounded bg-red-pale px-2.5 py-1.5 text-red">{photo.issues.join('; ')}</p>
        )}
      </section>
    </div>
  );
}

function factText(name: string, value: string | number | boolean): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'number' && FACT_TEXTS[name] ? FACT_TEXTS[name](value) : String(value).replace('T', ' ');
}

function Rows({ rows }: { rows: { label: string; value: string; differs?: boolean; mono?: boolean }[] }) {
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
      {rows.map(({ label, value, differs, mono }) => (
        <div key={label} className="contents">
          <dt className="whitespace-nowrap text-ink-2">{label}</dt>
          <dd className={`min-w-0 break-words ${mono ? 'font-mono text-[12px]' : ''}`}>
            {value}
            {differs && (
              <span className="ml-2 rounded bg-amber-pale px-1.5 text-[11px] whitespace-nowrap text-amber">
                blocks of the file disagree
              </span>
            )}
          </dd>
        </div>
      ))}
    </dl>
  );
}
