import { typesetter } from '../src/shared/typesetter';

// Formulas appear in one step, as they do in every view but the first.
beforeAll(() => typesetter.there);
