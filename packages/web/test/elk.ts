import Elk from 'elkjs/lib/elk.bundled.js';

const one = new Elk();

export const elk = () => one;
