// Somebody else’s servers and programs, as the demo has them: stand-ins on this machine, which copies can be delivered and handed over
// to. What comes to servers is kept in the folder `servers` of the demo.

import { join } from 'node:path';
import type { ServerShape } from '@stellin/contract/deliveryServers';
import { s3StandIn } from '@stellin/server/delivering/standIns/s3StandIn';
import { sftpStandIn } from '@stellin/server/delivering/standIns/sftpStandIn';
import type { StandIn } from '@stellin/server/standIn';
import { places } from '@stellin/server/config';
import { installProgram } from '@stellin/server/handover/standIns/otherProgram';
import { ROOT } from '@stellin/server/root';
import { programOf } from '@stellin/server/threads/program';
import type { DeliveryServers } from '@stellin/server/delivering/servers';

/** They are on this machine only, and hold nothing but what the demo delivers. */
const USER = 'saltmarsh';
const PASSWORD = 'saltmarsh-server';
const BUCKET = 'kites';
const ANY_PORT = 0;

/** How the program is called that pictures are handed over to. */
const PROGRAM = 'Retouch (stand-in)';

/** Starts them and keeps them as servers of the demo, each with the port that it has this time. */
export async function startStandIns(servers: DeliveryServers, home: string): Promise<StandIn[]> {
  await installProgram(places.programs(home), PROGRAM, [
    process.execPath,
    programOf(join(ROOT, 'cli', 'main.ts')),
    'retouch',
  ]);
  const folder = (name: string) => join(home, 'servers', name);
  const who = { port: ANY_PORT, user: USER };
  const sftp = await sftpStandIn({ ...who, folder: folder('northmere'), password: PASSWORD });
  const s3 = await s3StandIn({ ...who, folder: folder('storage'), bucket: BUCKET, secret: PASSWORD });
  await keep(servers, {
    ...{ kind: 'sftp', name: 'Northmere museum (stand-in)', host: '127.0.0.1', port: sftp.port, user: USER, root: '' },
    hostKey: null,
  });
  await keep(servers, {
    ...{ kind: 's3', name: 'Storage of the county (stand-in)', endpoint: `http://127.0.0.1:${s3.port}`, root: '' },
    ...{ region: 'us-east-1', bucket: BUCKET, user: USER },
  });
  return [sftp, s3];
}

async function keep(servers: DeliveryServers, server: ServerShape): Promise<void> {
  const known = (await servers.list()).find((each) => each.server.name === server.name);
  await servers.save({ serverId: known?.id ?? null, server, secret: PASSWORD });
}
