// What is read of deliveries and presets.

import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { z } from 'zod';
import { deliveringRoutes, deliveryDownloadPath, FIRST_PAGE_PATH } from '@stellin/contract/delivering';
import { deliveryServerRoutes } from '@stellin/contract/deliveryServers';
import { countText } from '@stellin/contract/wording';
import { call, fetchFile } from '../foundation/api';
import { useAction } from '../foundation/changes';

export type PlanInput = z.input<typeof deliveringRoutes.planDelivery.body>;
export type DeliverInput = z.input<typeof deliveringRoutes.deliver.body>;

export function usePresets() {
  return useQuery({
    queryKey: ['deliveries', 'presets'],
    queryFn: async () => (await call(deliveringRoutes.listPresets, {})).presets,
  });
}

export function usePresetVersions(id: number | null) {
  return useQuery({
    queryKey: ['deliveries', 'presetVersions', id],
    queryFn: async () => (await call(deliveringRoutes.showPresetVersions, { params: { id: id ?? 0 } })).versions,
    enabled: id !== null,
  });
}

/** What a delivery would be; null while no photos are meant. */
export function usePlan(request: PlanInput | null) {
  return useQuery({
    // Read anew when photos change: names and what they lack come from them.
    queryKey: ['photos', 'deliveryPlan', request],
    queryFn: () => call(deliveringRoutes.planDelivery, { body: request as PlanInput }),
    enabled: request !== null,
    placeholderData: keepPreviousData,
  });
}

const DELIVERIES_SHOWN = 100;

export function useDeliveries() {
  return useQuery({
    // Begins with the topic of jobs: how far a delivery is comes from its job.
    queryKey: ['jobs', 'deliveries'],
    queryFn: () => call(deliveringRoutes.listDeliveries, { query: { limit: DELIVERIES_SHOWN } }),
  });
}

export function useDelivery(id: string) {
  // Begins with the topic of jobs: it is read anew while its job goes on.
  return useQuery({
    queryKey: ['jobs', 'delivery', id],
    queryFn: () => call(deliveringRoutes.showDelivery, { params: { id } }),
  });
}

export function useDeliveryFiles(
  id: string,
  page: { state?: 'written' | 'skipped' | 'failed' | 'open'; offset: number },
) {
  return useQuery({
    queryKey: ['jobs', 'deliveryFiles', id, page],
    queryFn: () => call(deliveringRoutes.listDeliveryFiles, { params: { id }, query: page }),
    placeholderData: keepPreviousData,
  });
}

export function useServers() {
  return useQuery({
    queryKey: ['deliveries', 'servers'],
    queryFn: async () => (await call(deliveryServerRoutes.listDeliveryServers, {})).servers,
  });
}

type ServerInput = z.input<typeof deliveryServerRoutes.saveDeliveryServer.body>;

/** Says why a server does not work, or that it does. */
export function useTryServer() {
  return useAction((body: ServerInput) => call(deliveryServerRoutes.tryDeliveryServer, { body }), []);
}

export function useSaveServer() {
  return useAction((body: ServerInput) => call(deliveryServerRoutes.saveDeliveryServer, { body }), ['deliveries']);
}

export function useRemoveServer() {
  return useAction((id: number) => call(deliveryServerRoutes.removeDeliveryServer, { params: { id } }), ['deliveries']);
}

/** Begins a delivery; one that is downloaded begins at once. */
export function useDeliver() {
  const client = useQueryClient();
  return useAction(
    async (body: DeliverInput) => {
      const delivery = await call(deliveringRoutes.deliver, { body });
      if (delivery.download) download(delivery.id);
      else toast(`${countText(delivery.photos, 'photo')}: on their way, see the jobs above`);
      await client.invalidateQueries({ queryKey: ['jobs'] });
      return delivery;
    },
    ['deliveries', 'jobs'],
  );
}

export function useRetry() {
  return useAction((id: string) => call(deliveringRoutes.retryDelivery, { params: { id } }), ['deliveries', 'jobs']);
}

/** The first page of a sheet as PDF. */
export function useFirstPage(request: DeliverInput) {
  return useQuery({
    // Read anew when photos change: it shows what is said of them.
    queryKey: ['photos', 'firstPage', request],
    queryFn: () => fetchFile(FIRST_PAGE_PATH, request),
    placeholderData: keepPreviousData,
  });
}

/** Lets the browser download what a delivery comes to. */
export function download(id: string): void {
  const link = document.createElement('a');
  link.href = deliveryDownloadPath(id);
  link.download = '';
  link.click();
}
