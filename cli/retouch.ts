// `./stellin retouch`: what the stand-in of another program does with pictures.

import { retouch } from '@stellin/server/handover/standIns/otherProgram';

export async function retouchCommand(files: readonly string[]): Promise<number> {
  const made = await retouch(files, new Date().toISOString().replace(/\.\d+Z$/, 'Z'));
  for (const file of made) console.log(file);
  return made.length > 0 ? 0 : 1;
}
