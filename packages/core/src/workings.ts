// The fourth door: the way to right answers, line by line, for when they are told.
export { workingOf } from './kinds/workings.js';
