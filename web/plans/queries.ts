// What is read of site plans.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { PIN_FORMATS, planRoutes, type PinFormat } from '@stellin/contract/plans';
import { call } from '../foundation/api';
import { useAction } from '../foundation/changes';

export function usePlans() {
  return useQuery({
    queryKey: ['plans', 'list'],
    queryFn: async () => (await call(planRoutes.listPlans, {})).plans,
  });
}

/** A plan with its pins; nothing while none is meant. */
export function usePlan(id: number | undefined) {
  return useQuery({
    queryKey: ['plans', 'one', id],
    queryFn: () => call(planRoutes.showPlan, { params: { id: id ?? 0 } }),
    enabled: id !== undefined,
  });
}

export const useAddPicture = () =>
  useAction(
    (body: { name: string; picture: string } | { photoId: number; page: number }) =>
      call(planRoutes.addPlanPicture, { body }),
    [],
  );

/** Photos of a result that lie on a plan and have no pin there. */
export function useProposals(id: number, query: string) {
  return useQuery({
    queryKey: ['plans', 'proposals', id, query],
    queryFn: () => call(planRoutes.proposePins, { params: { id }, body: { query } }),
    placeholderData: keepPreviousData,
  });
}

export const useReadPins = () =>
  useAction(
    ({ id, text }: { id: number; text: string }) => call(planRoutes.readPins, { params: { id }, body: { text } }),
    [],
  );

export const useReadRegions = () => useAction((id: number) => call(planRoutes.readPinRegions, { params: { id } }), []);

/** The pins that hold a photo. */
export function usePinsOfPhoto(id: number) {
  return useQuery({
    queryKey: ['plans', 'of photo', id],
    queryFn: async () => (await call(planRoutes.pinsOfPhoto, { params: { id } })).pins,
  });
}

export function tileUrl({ id, pictureId }: { id: number; pictureId: number }, z: number, x: number, y: number): string {
  return `/api/plans/${id}/tiles/${z}/${y}/${x}?picture=${pictureId}`;
}

export function exportUrl(id: number, format: PinFormat): string {
  return `/api/plans/${id}/export?format=${format}`;
}

export function printUrl(id: number, withPictures: boolean, layers: readonly string[]): string {
  const asked = new URLSearchParams({ pictures: withPictures ? 'yes' : 'no', layers: JSON.stringify(layers) });
  return `/api/plans/${id}/print?${asked.toString()}`;
}

export const FORMATS = Object.keys(PIN_FORMATS) as PinFormat[];
