import type { Controller, PidController } from './parts.js';

/** Whether a controller is a PID or part of one, and not a compensator. */
export const isPid = (controller: Controller): controller is PidController => controller.terms !== 'compensator';
