// What describing reads, by the keys that live changes make stale.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { z } from 'zod';
import { describingRoutes, type description as descriptionSchema } from '@stellin/contract/describing';
import type { Target } from '@stellin/core/describing/targets';
import type { Selection } from '@stellin/contract/photos';
import { call } from '../foundation/api';

export type DescriptionInput = z.input<typeof descriptionSchema>;

/** What the chosen photos say, field by field. */
export function useAgreement(selection: Selection | null) {
  return useQuery({
    queryKey: ['photos', 'agreement', selection],
    queryFn: () => call(describingRoutes.agreement, { body: { selection: selection ?? { query: null } } }),
    enabled: selection !== null,
    placeholderData: keepPreviousData,
  });
}
export type AgreementOf = NonNullable<ReturnType<typeof useAgreement>['data']>['fields'][number];

/** What the chosen photos lack of what the rules ask for. */
export function useCheck(selection: Selection) {
  return useQuery({
    queryKey: ['photos', 'check', selection],
    queryFn: () => call(describingRoutes.check, { body: { selection } }),
  });
}

/** Field sets, templates and rules. */
export function usePrepared() {
  return useQuery({ queryKey: ['describing'], queryFn: () => call(describingRoutes.showPrepared, {}) });
}
export type Prepared = NonNullable<ReturnType<typeof usePrepared>['data']>;

/** Fields of the project that field sets name. */
export function useOwnTargets(): Target[] {
  const { data } = usePrepared();
  const targets = (data?.fieldSets ?? []).flatMap(({ entries }) => entries.map(({ target }) => target));
  return [...new Set(targets.filter((target) => target.startsWith('custom:')))];
}

export const PREVIEW_PAGE = 100;

/** Before and after of the photos that a description changes, up to `limit` of them. */
export function usePreview(selection: Selection, description: DescriptionInput | undefined, limit: number) {
  return useQuery({
    queryKey: ['photos', 'preview', selection, description, limit],
    queryFn: () =>
      call(describingRoutes.previewDescription, {
        body: { selection, description: description ?? { kind: 'fillTemplate', edits: [] }, limit },
      }),
    enabled: description !== undefined,
    placeholderData: keepPreviousData,
  });
}

export function useTemplateVersions(id: number | null) {
  return useQuery({
    queryKey: ['describing', 'versions', id],
    queryFn: () => call(describingRoutes.showTemplateVersions, { params: { id: id ?? 0 } }),
    enabled: id !== null,
  });
}
