// Tokens with which one's own scripts ask: each for some permissions, until a day, shown once.

import { useState } from 'react';
import { PERMISSIONS } from '@stellin/core/accounts/permissions';
import type { ApiToken } from '@stellin/contract/tokens';
import { Button } from '../parts/Button';
import { DataTable } from '../parts/DataTable';
import { dateTimeText } from '../parts/dateTimeText';
import { Queried } from '../parts/Queried';
import { useRevokeToken, useTokens } from './queries';
import { ShownOnce } from './ShownOnce';
import { TokenForm } from './TokenForm';

export function Tokens() {
  const tokens = useTokens();
  const revoke = useRevokeToken();
  const [making, setMaking] = useState(false);
  const [made, setMade] = useState<string | null>(null);
  return (
    <section aria-labelledby="tokens">
      <div className="mb-2 flex items-center gap-3">
        <h2 id="tokens" className="font-title text-[16px] font-semibold">
          Tokens for scripts
        </h2>
        <a href="/api/docs" target="_blank" rel="noreferrer" className="text-slate underline underline-offset-2">
          What can be asked
        </a>
        <Button className="ml-auto" onClick={() => setMaking(true)}>
          New token …
        </Button>
      </div>
      <Queried query={tokens}>
        {(rows) => (
          <div className="rounded border border-line bg-card">
            <DataTable<ApiToken>
              label="Tokens for scripts"
              rows={rows}
              keyOf={({ id }) => id}
              empty={<p className="px-3 py-2 text-ink-2">A script asks in your name, for what its token allows.</p>}
              columns={[
                { id: 'name', title: 'Name', headsRow: true, cell: ({ name }) => name },
                {
                  id: 'may',
                  title: 'May',
                  cell: ({ permissions }) => permissions.map((id) => PERMISSIONS[id].label).join(', '),
                },
                { id: 'until', title: 'Until', cell: ({ expiresAt }) => dateTimeText(expiresAt) },
                {
                  id: 'used',
                  title: 'Last used',
                  cell: ({ lastUsedAt }) => (lastUsedAt ? dateTimeText(lastUsedAt) : 'not yet'),
                },
                {
                  id: 'revoke',
                  title: <span className="sr-only">Revoke</span>,
                  className: 'text-right',
                  cell: ({ id, name }) => (
                    <Button
                      look="quiet"
                      className="!h-7"
                      aria-label={`Revoke ${name}`}
                      disabled={revoke.isPending}
                      onClick={() => revoke.mutate(id)}
                    >
                      Revoke
                    </Button>
                  ),
                },
              ]}
            />
          </div>
        )}
      </Queried>
      {making && (
        <TokenForm
          onClose={() => setMaking(false)}
          onMade={(token) => {
            setMaking(false);
            setMade(token);
          }}
        />
      )}
      {made !== null && (
        <ShownOnce title="Your token" label="Token" secret={made} onClose={() => setMade(null)}>
          Whoever has it does what it allows, in your name. It is not shown again; if it gets lost, make another one.
        </ShownOnce>
      )}
    </section>
  );
}
