// What is read of tables that come in, and what is done with them.

import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import {
  incomingFileAnswer,
  incomingFilePath,
  incomingTableRoutes,
  type IncomingReading,
  type IncomingSettings,
  type IncomingTable,
  type RowState,
} from '@stellin/contract/incomingTables';
import { call, upload } from '../foundation/api';
import { useAction } from '../foundation/changes';

// They begin with the topic of photos: which photos rows are about, and what would change, hangs on these.
const LIST_KEY = ['photos', 'incomingTables'];
const tableKey = (id: number) => ['photos', 'incomingTable', id];

export const ROWS_SHOWN = 50;

export function useIncomingTables() {
  return useQuery({
    queryKey: LIST_KEY,
    queryFn: async () => (await call(incomingTableRoutes.listIncomingTables, {})).tables,
  });
}

export function useIncomingTable(id: number) {
  return useQuery({
    queryKey: tableKey(id),
    queryFn: () => call(incomingTableRoutes.showIncomingTable, { params: { id } }),
  });
}

export function useTablePreview(table: IncomingTable, offset: number) {
  const { id, settings } = table;
  return useQuery({
    queryKey: [...tableKey(id), 'preview', settings, offset],
    queryFn: () =>
      call(incomingTableRoutes.previewIncomingTable, { params: { id }, query: { offset, limit: ROWS_SHOWN } }),
    placeholderData: keepPreviousData,
  });
}

export function useTableRows(table: IncomingTable, state: RowState, offset: number) {
  const { id, settings } = table;
  return useQuery({
    queryKey: [...tableKey(id), 'rows', settings, state, offset],
    queryFn: () =>
      call(incomingTableRoutes.listIncomingRows, { params: { id }, query: { state, offset, limit: ROWS_SHOWN } }),
    placeholderData: keepPreviousData,
  });
}

export function useTableWords(table: IncomingTable, offset: number) {
  const { id, settings } = table;
  return useQuery({
    queryKey: [...tableKey(id), 'words', settings.uses, settings.listMark, offset],
    queryFn: () =>
      call(incomingTableRoutes.listIncomingWords, { params: { id }, query: { offset, limit: ROWS_SHOWN } }),
    placeholderData: keepPreviousData,
  });
}

/** Brings a file in as a table; gives its number. */
export function useBringIn() {
  return useAction(
    async (file: File) => incomingFileAnswer.parse(await upload(incomingFilePath(file.name), file)).id,
    ['photos'],
  );
}

/** Says what the columns of a table are for; what it says about the rows is shown at once. */
export function useSettings(id: number) {
  const client = useQueryClient();
  return useAction(async (settings: IncomingSettings) => {
    const table = await call(incomingTableRoutes.useIncomingTable, { params: { id }, body: settings });
    client.setQueryData(tableKey(id), table);
  }, []);
}

export function useReadAgain(id: number) {
  const client = useQueryClient();
  return useAction(
    async (reading: IncomingReading) => {
      const table = await call(incomingTableRoutes.readTableAgain, { params: { id }, body: reading });
      client.setQueryData(tableKey(id), table);
    },
    ['photos'],
  );
}

export function useForget() {
  return useAction((id: number) => call(incomingTableRoutes.removeIncomingTable, { params: { id } }), ['photos']);
}
