// What is read of where accessions come from, and what is done with their papers.

import { useQuery } from '@tanstack/react-query';
import { accessionRoutes } from '@stellin/contract/accessions';
import { call } from '../foundation/api';
import { base64Of } from '../foundation/base64';
import { useAction } from '../foundation/changes';

export function useProvenance(accessionId: number) {
  return useQuery({
    queryKey: ['accessions', 'provenance', accessionId],
    queryFn: () => call(accessionRoutes.showProvenance, { params: { id: accessionId } }),
  });
}

export function useAddPaper(accessionId: number) {
  return useAction(
    async (file: File) =>
      call(accessionRoutes.addPaper, {
        params: { id: accessionId },
        body: { name: file.name, content: await base64Of(file) },
      }),
    ['accessions'],
  );
}

export function useRemovePaper() {
  return useAction((id: number) => call(accessionRoutes.removePaper, { params: { id } }), ['accessions']);
}

/** Where a paper is fetched. */
export const paperUrl = (id: number) => `/api/papers/${id}`;
