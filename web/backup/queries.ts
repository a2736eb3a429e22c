// Backups as the server knows them, and what is done with them.

import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { backupRoutes, type BackupPlan } from '@stellin/contract/backup';
import { call } from '../foundation/api';
import { useAction } from '../foundation/changes';

export function useBackupState() {
  return useQuery({ queryKey: ['backups', 'state'], queryFn: () => call(backupRoutes.showBackupState, {}) });
}

/** For keepers. */
export function useBackups() {
  return useQuery({ queryKey: ['backups', 'list'], queryFn: () => call(backupRoutes.listBackups, {}) });
}

export function useBackUp() {
  return useAction(async () => {
    const { title } = await call(backupRoutes.backUp, {});
    toast(`${title}: under way, see the jobs above`);
  }, ['jobs', 'backups']);
}

export function useCheckBackup() {
  return useAction(
    async (id: string) => {
      const { title } = await call(backupRoutes.checkBackup, { params: { id } });
      toast(`${title}: under way, see the jobs above`);
    },
    ['jobs', 'backups'],
  );
}

export function usePlanBackups() {
  return useAction((plan: BackupPlan) => call(backupRoutes.planBackups, { body: plan }), ['backups']);
}
