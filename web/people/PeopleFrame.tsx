// The frame of all screens of people.

import type { ReactNode } from 'react';
import { Split } from '../parts/Split';
import { PersonList } from './PersonList';

const WIDTH = { lowest: 180, usual: 232, highest: 420 };

/** The list of persons at the left, what is looked at beside it. */
export function PeopleFrame({ children }: { children: ReactNode }) {
  return (
    <div className="flex h-full">
      <Split name="personsWidth" label="Width of the list of persons" at="left" size={WIDTH} sized={<PersonList />}>
        <div className="overflow-y-auto p-4">{children}</div>
      </Split>
    </div>
  );
}
