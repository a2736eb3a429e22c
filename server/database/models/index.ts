// Every table of the catalogue, a file a subject. The migrations make them; a test holds both to one another.

export * from './accounts';
export * from './backup';
export * from './delivering';
export * from './describing';
export * from './doubles';
export * from './dossiers';
export * from './drives';
export * from './filing';
export * from './fixity';
export * from './handover';
export * from './incomingTables';
export * from './intake';
export * from './jobs';
export * from './ledger';
export * from './mailing';
export * from './marks';
export * from './people';
export * from './photos';
export * from './places';
export * from './plans';
export * from './projects';
export * from './search';
export * from './settings';
export * from './sharing';
export * from './vocabulary';
export * from './writeback';
