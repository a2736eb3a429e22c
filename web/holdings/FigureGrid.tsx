// All figures of what is looked at, as cards.

import { format, subWeeks } from 'date-fns';
import { useMemo } from 'react';
import type { Figures } from '@stellin/contract/holdings';
import { holdingRoutes } from '@stellin/contract/holdings';
import { numberText } from '@stellin/contract/wording';
import { useMayCall } from '../foundation/session';
import { DrivesCard } from './DrivesCard';
import { AgesCard, BarsCard, GrowthCard, WorkCard } from './FigureCards';
import { useWork } from './queries';
import { VocabularyCard } from './VocabularyCard';

const WEEKS = 16;

export function FigureGrid({ figures }: { figures: Figures }) {
  const { facets, growth, ages, media, sizes, faces, doubles } = figures;
  const since = useMemo(() => format(subWeeks(new Date(), WEEKS), 'yyyy-MM-dd'), []);
  const maySeeWork = useMayCall(holdingRoutes.showWork);
  const weeks = useWork(since, maySeeWork).data ?? [];
  const drive = facets.find(({ id }) => id === 'drive');
  return (
    // As wide as they like, one below the other in as many columns as there is room for.
    <div className="mt-4 columns-[340px] gap-3 *:mb-3 *:break-inside-avoid">
      <GrowthCard months={growth} />
      <AgesCard ages={ages} />
      <VocabularyCard />
      {weeks.length > 0 && <WorkCard weeks={weeks} />}
      <DrivesCard figures={drive?.values ?? []} />
      <BarsCard title="Stills, films and others" figures={media.filter(({ photos }) => photos > 0)} />
      {facets
        .filter(({ id, values }) => id !== 'drive' && values.length > 0)
        .map(({ id, label, values, distinct, missing }) => (
          <BarsCard
            key={id}
            title={label}
            said={[
              distinct > values.length ? `the first of ${numberText(distinct)}` : '',
              missing && missing.photos > 0 ? `${numberText(missing.photos)} without` : '',
            ]
              .filter(Boolean)
              .join(', ')}
            figures={values}
          />
        ))}
      <BarsCard title="File sizes" figures={sizes} />
      <BarsCard title="Faces" figures={faces} />
      <BarsCard title="Doubles" figures={[doubles]} />
    </div>
  );
}
