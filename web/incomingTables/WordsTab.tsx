// Words of columns of terms that are none: each becomes a term after all, waits as a keyword, or is left out.

import { useState } from 'react';
import type { WordDecision } from '@stellin/core/incomingTables/terms';
import type { IncomingTable, IncomingWord } from '@stellin/contract/incomingTables';
import { numberText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { DataTable, type Column } from '../parts/DataTable';
import { Pager } from '../parts/Pager';
import { Queried } from '../parts/Queried';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { TermPath } from '../parts/terms/TermPath';
import { TermPicker } from '../parts/terms/TermPicker';
import { ROWS_SHOWN, useTableWords } from './queries';

interface Props {
  table: IncomingTable;
  onChange: (words: WordDecision[]) => void;
}

export function WordsTab({ table, onChange }: Props) {
  const [offset, setOffset] = useState(0);
  // What terms were chosen by typing are called; of proposals the row says it.
  const [labels, setLabels] = useState<ReadonlyMap<number, string>>(new Map());
  const words = useTableWords(table, offset);
  const decided = new Map(table.settings.words.map((each) => [each.word, each]));
  const decide = (decision: WordDecision) =>
    onChange([...table.settings.words.filter(({ word }) => word !== decision.word), decision]);
  const columns: readonly Column<IncomingWord>[] = [
    {
      id: 'word',
      title: 'Word',
      width: 'w-36',
      headsRow: true,
      className: 'break-words',
      cell: ({ written }) => written,
    },
    { id: 'rows', title: 'Rows', isNumber: true, width: 'w-16', cell: ({ rows }) => numberText(rows) },
    {
      id: 'becomes',
      title: 'Becomes',
      cell: ({ word, written, proposal }) => {
        const { decision = 'keep', termId = null } = decided.get(word) ?? {};
        const isProposal = proposal !== null && termId === proposal.id;
        return (
          <span className="flex flex-wrap items-center gap-x-4 gap-y-1">
            <RadioGroup
              label={`What becomes of ${written}`}
              value={decision}
              className="flex gap-4"
              onChange={(next) => next !== 'term' && decide({ word, decision: next, termId: null })}
            >
              <Radio value="keep">a keyword</Radio>
              <Radio value="drop">nothing</Radio>
              {decision === 'term' && (
                <Radio value="term">
                  {isProposal ? <TermPath term={proposal} /> : <b>{labels.get(termId ?? 0) ?? 'the term chosen'}</b>}
                </Radio>
              )}
            </RadioGroup>
            {proposal && !isProposal && (
              <Button onClick={() => decide({ word, decision: 'term', termId: proposal.id })}>
                Use “{proposal.label}”
              </Button>
            )}
            <TermPicker
              label={`Term for ${written}`}
              placeholder="another term …"
              assignable
              className="w-32"
              onPick={({ id, label }) => {
                setLabels(new Map([...labels, [id, label]]));
                decide({ word, decision: 'term', termId: id });
              }}
            />
          </span>
        );
      },
    },
  ];
  return (
    <Queried query={words}>
      {({ words: page, total }) => (
        <>
          {total > 0 && (
            <p className="border-b border-line px-3 py-2 text-[12px] text-ink-2">
              These are no terms. What stays a keyword waits under Intake until it is settled.
            </p>
          )}
          <DataTable
            label="Words that are no terms"
            rows={page}
            keyOf={({ word }) => word}
            columns={columns}
            empty={<p className="p-4 text-ink-2">All words of the table are terms, or no column is for terms.</p>}
          />
          <Pager offset={offset} page={ROWS_SHOWN} total={total} onMove={setOffset} />
        </>
      )}
    </Queried>
  );
}
