// The third door: block diagrams as they are drawn, changed and reduced.
export {
  type BlockDiagram,
  type BlockNode,
  type DiagramNode,
  type SumNode,
  type SumTerm,
  isNamed,
  outputsOf,
  readBlocks,
  sourcesOf,
  takenNames,
  textOfBlocks,
  withNames,
} from './diagram/blocks.js';
export { closingLines, lineBetween } from './diagram/closing.js';
export { checkLetters, exactQuestion, exactTransfer, readWith } from './diagram/exact.js';
export { symbolsOf } from './diagram/blocks.js';
export { isSameGain, simplifiedGain } from './diagram/gains.js';
export { type Move, type MoveKind, movesOf, movesWith } from './diagram/moves.js';
export { type SignalPair, type Step, moveOfStep, reducedGain, reduction, restricted } from './diagram/reduction.js';
export { type Path, type PathView, pathsOf } from './diagram/paths.js';
export {
  type Place,
  addInput,
  addOutput,
  bind,
  changeSign,
  feed,
  grouped,
  insertBlock,
  removed,
  rename,
  setGain,
  withoutTerm,
} from './diagram/edit.js';
export { type DiagramGroup, type DrawnGroup, equationOf, groupsIn, nodesOf } from './diagram/groups.js';
export { type Drawing, type Line, type Shape, drawingKey, layoutOf } from './diagram/layout.js';
export type { Point } from './diagram/graph.js';
export { type Run, nameRuns, plain, widthOf, written } from './diagram/mathRuns.js';
export { moveWords, signalWords } from './diagram/words.js';
