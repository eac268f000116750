/** Tests that a mutation run of core/src/change uses, in one file: what they need is loaded once. */
import '../change.test';
import '../synced.test';
import '../rules-of-rows.test';
import '../copy-rows.test';
import '../windows.test';
