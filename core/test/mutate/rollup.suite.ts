/** Tests that a mutation run of core/src/rollup uses, in one file: what they need is loaded once. */
import '../rollup.test';
import '../report.test';
