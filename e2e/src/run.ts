/** npm run test:browser [-- WORD]: all journeys, or those whose name holds the word. Needs a build in web/dist. */
import './whole-job.ts';
import './dates.ts';
import './figures.ts';
import './finding.ts';
import './windows.ts';
import './hands.ts';
import './building.ts';
import './working.ts';
import './picture.ts';
import './signs.ts';
import './codes.ts';
import './views.ts';
import './people.ts';
import './sharing.ts';
import './money.ts';
import './access.ts';
import { runAll } from './harness.ts';

process.exit((await runAll(process.argv[2])) ? 0 : 1);
