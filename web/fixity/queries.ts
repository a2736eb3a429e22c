// What files should hold as the server knows it, and what is done about it.

import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { fixityRoutes, type FixityPlan } from '@stellin/contract/fixity';
import { call } from '../foundation/api';
import { useAction } from '../foundation/changes';

export function useFixity() {
  return useQuery({ queryKey: ['fixity', 'drives'], queryFn: () => call(fixityRoutes.showFixity, {}) });
}

export function useDamagedFiles() {
  return useQuery({ queryKey: ['fixity', 'damaged'], queryFn: () => call(fixityRoutes.listDamagedFiles, {}) });
}

export function useReadDriveAgain() {
  return useAction(
    async (id: string) => {
      const { title } = await call(fixityRoutes.readDriveAgain, { params: { id } });
      toast(`${title}: under way, see the jobs above`);
    },
    ['jobs', 'fixity'],
  );
}

export function useAcceptFile() {
  return useAction((id: number) => call(fixityRoutes.acceptFile, { params: { id } }), ['fixity', 'photos']);
}

export function usePlanFixity() {
  return useAction((plan: FixityPlan) => call(fixityRoutes.planFixity, { body: plan }), ['fixity']);
}
