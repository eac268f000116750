/** Tests that a mutation run of core/src/commands uses, in one file: what they need is loaded once. */
import '../commands.test';
import '../change.test';
import '../copy-rows.test';
import '../exceptions.test';
import '../rules-of-rows.test';
import '../report.test';
import '../command-list.test';
import '../bulk-links.test';
import '../reshape.test';
import '../replicate.test';
import '../renumber.test';
import '../links.test';
import '../cells.test';
