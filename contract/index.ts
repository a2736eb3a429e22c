// All routes of the API by name.

import { accessRoutes } from './access';
import { accountRoutes } from './accounts';
import { backupRoutes } from './backup';
import { calendarRoutes } from './calendar';
import { copyingRoutes } from './copying';
import { deliveringRoutes } from './delivering';
import { deliveryServerRoutes } from './deliveryServers';
import { describingRoutes } from './describing';
import { dossierRoutes } from './dossiers';
import { doubleRoutes } from './doubles';
import { bayRoutes, driveRoutes } from './drives';
import { filingRoutes } from './filing';
import { fixityRoutes } from './fixity';
import { handoverRoutes } from './handover';
import { mediaRoutes } from './media';
import { incomingTableRoutes } from './incomingTables';
import { installationRoutes } from './installation';
import { holdingRoutes } from './holdings';
import { intakeRoutes } from './intake';
import { jobRoutes } from './jobs';
import { keywordRoutes } from './keywords';
import { ledgerRoutes } from './ledger';
import { lookalikeRoutes } from './lookalikes';
import { mailingRoutes } from './mailing';
import { markRoutes } from './marks';
import { oldMapRoutes } from './oldMaps';
import { streetMapRoutes } from './streetMaps';
import { onlookerRoutes } from './onlookers';
import { peopleRoutes } from './people';
import { photoRoutes } from './photos';
import { pictureTextRoutes } from './pictureText';
import { placeRoutes } from './places';
import { planRoutes } from './plans';
import { projectRoutes } from './projects';
import { roomRoutes } from './room';
import { searchRoutes } from './search';
import { sharingRoutes } from './sharing';
import { teamRoutes } from './team';
import { tokenRoutes } from './tokens';
import { trackRoutes } from './tracks';
import { trackingRoutes } from './tracking';
import { vocabularyRoutes } from './vocabulary';
import { writeBackRoutes } from './writeback';
import { pocketRoutes } from './pocket';
import { reportRoutes } from './reports';
import { steppingRoutes } from './stepping';
import { accessionRoutes } from './accessions';
import { workListRoutes } from './workLists';

export const api = {
  ...accessRoutes,
  ...accountRoutes,
  ...backupRoutes,
  ...calendarRoutes,
  ...copyingRoutes,
  ...deliveringRoutes,
  ...deliveryServerRoutes,
  ...describingRoutes,
  ...dossierRoutes,
  ...doubleRoutes,
  ...bayRoutes,
  ...driveRoutes,
  ...filingRoutes,
  ...fixityRoutes,
  ...handoverRoutes,
  ...mediaRoutes,
  ...incomingTableRoutes,
  ...installationRoutes,
  ...holdingRoutes,
  ...reportRoutes,
  ...pocketRoutes,
  ...accessionRoutes,
  ...steppingRoutes,
  ...workListRoutes,
  ...intakeRoutes,
  ...jobRoutes,
  ...keywordRoutes,
  ...ledgerRoutes,
  ...lookalikeRoutes,
  ...mailingRoutes,
  ...markRoutes,
  ...oldMapRoutes,
  ...streetMapRoutes,
  ...onlookerRoutes,
  ...peopleRoutes,
  ...photoRoutes,
  ...pictureTextRoutes,
  ...placeRoutes,
  ...planRoutes,
  ...projectRoutes,
  ...roomRoutes,
  ...searchRoutes,
  ...sharingRoutes,
  ...teamRoutes,
  ...tokenRoutes,
  ...trackRoutes,
  ...trackingRoutes,
  ...vocabularyRoutes,
  ...writeBackRoutes,
};
