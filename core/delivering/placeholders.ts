// Placeholders of the names that copies get: those of renaming, and what a delivery and its photos say.

import { PLACEHOLDERS, type NameFacts, type Placeholders } from '../filing/namePattern';

/** What names of copies may be filled with. */
export interface CopyNameFacts extends NameFacts {
  id: number;
  title: string;
  headline: string;
  event: string;
  city: string;
  drive: string;
  /** Of the delivery. */
  preset: string;
  recipient: string;
  /** The folders of the original below its drive, `a/b`. */
  folders: string;
}

const LONGEST = 60;
const said = (text: string) => text.slice(0, LONGEST).trim() || 'unknown';

export const COPY_PLACEHOLDERS: Placeholders<CopyNameFacts> = {
  ...PLACEHOLDERS,
  id: { help: 'the number of the photo in the catalogue', value: ({ id }) => String(id) },
  title: { help: 'its title', value: ({ title }) => said(title) },
  headline: { help: 'its headline', value: ({ headline }) => said(headline) },
  event: { help: 'the event', value: ({ event }) => said(event) },
  city: { help: 'the city', value: ({ city }) => said(city) },
  drive: { help: 'the drive of the original', value: ({ drive }) => said(drive) },
  preset: { help: 'the name of the preset', value: ({ preset }) => said(preset) },
  recipient: { help: 'for whom the delivery is', value: ({ recipient }) => said(recipient) },
};
