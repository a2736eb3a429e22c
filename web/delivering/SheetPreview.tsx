// The first page of a sheet, as its PDF will have it.

import { PdfPage } from '../parts/PdfPage';
import { Queried } from '../parts/Queried';
import { useFirstPage, type DeliverInput } from './queries';

export function SheetPreview({ request }: { request: DeliverInput }) {
  const page = useFirstPage(request);
  return (
    <Queried query={page} pending={<p className="p-4 text-ink-2">The first page is being made …</p>}>
      {(pdf) => (
        <div className={`flex h-full justify-center bg-ground p-4 ${page.isPlaceholderData ? 'opacity-60' : ''}`}>
          <PdfPage pdf={pdf} label="The first page of the sheet" />
        </div>
      )}
    </Queried>
  );
}
