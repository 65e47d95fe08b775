/** Processes and threads beside the server. */
export { Child, failureOf, type ChildOptions, type End } from './child';
export { programFile } from './program-file';
export { openRegister } from './register';
export { runThread } from './thread';
export { runToDone } from './run-to-done';
