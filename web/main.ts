// Where the interface begins. What is bundled together is evaluated together, so the rest is fetched once Zod is told.

import './withoutCompiling';

void import('./start');
