/** Tests that a mutation run of core/src/schedule uses, in one file: what they need is loaded once. */
import '../rules.test';
import '../rules-answers.test';
import '../rules-float.test';
import '../rules-settled.test';
import '../bars.test';
import '../calendar-commands.test';
import '../chain.test';
import '../loops.test';
import '../schedule-json.test';
import '../schedule-view.test';
import '../schedule-problems.test';
import '../work.test';
import '../drag.test';
import '../rollup.test';
import '../load.test';
import '../explain.test';
import './schedule-twin';
