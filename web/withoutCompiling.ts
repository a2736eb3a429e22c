// Zod would otherwise try to compile its checks at run time, which the content security policy forbids. Imported before
// any module that makes a schema.

import { config } from 'zod';

config({ jitless: true });
