import type { ReactNode } from 'react';
import { PersonList } from './PersonList';

/** The list of persons at the left, what is looked at beside it. */
export function PeopleFrame({ children }: { children: ReactNode }) {
  return (
    <div className="flex h-full">
      <PersonList />
      <div className="min-w-0 flex-1 overflow-y-auto p-4">{children}</div>
    </div>
  );
}
