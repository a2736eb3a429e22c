// What is read of the marks of the team.

import { useQuery } from '@tanstack/react-query';
import { markRoutes } from '@stellin/contract/marks';
import { call } from '../foundation/api';

export function useMarks() {
  return useQuery({
    queryKey: ['marks'],
    queryFn: async () => (await call(markRoutes.listMarks, {})).marks,
  });
}
