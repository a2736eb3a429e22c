// What is served: an archive or the demo. It does not change while a page is open.

import { useQuery } from '@tanstack/react-query';
import { installationRoutes } from '@stellin/contract/installation';
import { call } from './api';

export function useInstallation() {
  return useQuery({
    queryKey: ['installation'],
    queryFn: () => call(installationRoutes.installation, {}),
    staleTime: Infinity,
  });
}
