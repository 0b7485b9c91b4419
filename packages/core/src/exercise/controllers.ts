import type { Controller, PidController } from '../kinds/gains/part.js';

/** Whether a controller is a PID or part of one, and not a compensator. */
export const isPid = (controller: Controller): controller is PidController => controller.terms !== 'compensator';
