// Reads the report of a test runner and prints “passed failed”. Skipped tests count as failed: a check that does not run checks nothing.
import { readFileSync } from 'node:fs';

const report = JSON.parse(readFileSync(process.argv[2], 'utf8'));
let passed;
let total;
if (report.results?.summary) {
  ({ passed, tests: total } = report.results.summary);
} else if (report.stats) {
  passed = report.stats.expected;
  total = passed + report.stats.unexpected + report.stats.flaky + report.stats.skipped;
  if (report.errors?.length > 0) total += report.errors.length;
} else {
  passed = report.numPassedTests;
  total = report.numTotalTests + (report.numFailedTestSuites > 0 && report.numFailedTests === 0 ? 1 : 0);
}
if (!Number.isInteger(passed) || !Number.isInteger(total)) process.exit(1);
console.log(`${passed} ${Math.max(total - passed, total === 0 ? 1 : 0)}`);
