// Field sets that are there before a team makes its own.

import { DESCRIBED_FIELDS, type Target } from './targets';

export interface StandardSet {
  name: string;
  targets: readonly Target[];
}

export const STANDARD_SETS: readonly StandardSet[] = [
  {
    name: 'Content',
    targets: [
      'title',
      'headline',
      'description',
      'event',
      'personInImage',
      'creator',
      'dateCreated',
      'dateUncertain',
      'descriptionWriter',
      'altText',
    ],
  },
  {
    name: 'Place',
    targets: [
      'sublocation',
      'city',
      'provinceState',
      'country',
      'countryCode',
      'locationShown',
      'locationCreated',
      'position',
    ],
  },
  {
    name: 'Rights',
    targets: [
      'copyrightNotice',
      'creditLine',
      'source',
      'usageTerms',
      'webStatement',
      'rightsMarked',
      'copyrightOwner',
      'licensor',
      'creatorJobTitle',
      'creatorContactInfo',
      'modelReleaseStatus',
      'propertyReleaseStatus',
      'dataMining',
    ],
  },
  {
    name: 'Collection',
    targets: [
      'artworkOrObject',
      'jobId',
      'instructions',
      'registryId',
      'digitalSourceType',
      'productInImage',
      'organisationInImageName',
      'contributor',
    ],
  },
  { name: 'All fields', targets: DESCRIBED_FIELDS.map(({ id }) => id) },
];
