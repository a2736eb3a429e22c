// What is read of reports, and what is done with those that are kept.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import {
  REPORT_FILE_PATH,
  reportRoutes,
  type REPORT_FORMATS,
  type ReportPresetForm,
  type ReportSettings,
} from '@stellin/contract/reports';
import { call } from '../foundation/api';
import { useAction } from '../foundation/changes';

export function useReport(settings: ReportSettings, isWanted: boolean) {
  return useQuery({
    queryKey: ['photos', 'report', settings],
    queryFn: () => call(reportRoutes.makeReport, { body: settings }),
    enabled: isWanted,
    placeholderData: keepPreviousData,
  });
}

export function useReportPresets() {
  return useQuery({
    queryKey: ['workLists', 'reports'],
    queryFn: async () => (await call(reportRoutes.listReportPresets, {})).presets,
  });
}

export function useKeepReport() {
  return useAction((form: ReportPresetForm) => call(reportRoutes.keepReport, { body: form }), ['workLists']);
}

export function useRemoveReport() {
  return useAction((id: number) => call(reportRoutes.removeReport, { params: { id } }), ['workLists']);
}

/** Where the file of a report is fetched. */
export function reportUrl(format: (typeof REPORT_FORMATS)[number], settings: ReportSettings): string {
  const { kind, from, until, projectId, accessionId } = settings;
  const query = new URLSearchParams({
    ...{ format, kind, from, until },
    ...{ projectId: String(projectId ?? ''), accessionId: String(accessionId ?? '') },
  });
  return `${REPORT_FILE_PATH}?${query}`;
}
