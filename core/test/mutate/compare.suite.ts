/** Tests that a mutation run of core/src/compare uses, in one file: what they need is loaded once. */
import '../rollup.test';
import '../status-logic.test';
