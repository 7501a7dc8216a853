/** For runs that change the code on purpose: a property looks at cases for a few seconds, and at the first that fails. */
import fc from 'fast-check';

fc.configureGlobal({
  endOnFailure: true,
  interruptAfterTimeLimit: 2500,
  markInterruptAsFailure: false
});
