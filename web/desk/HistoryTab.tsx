import { EntryList } from '../ledger/EntryList';
import { useHistory } from './queries';

export function HistoryTab({ photoId }: { photoId: number | undefined }) {
  const { data: entries } = useHistory(photoId);
  if (photoId === undefined) return <p className="p-3 text-ink-2">Choose a photo to see what was done to it.</p>;
  if (!entries) return null;
  return entries.length ? (
    <EntryList entries={entries} />
  ) : (
    <p className="p-3 text-ink-2">Nothing was changed on this photo yet.</p>
  );
}
