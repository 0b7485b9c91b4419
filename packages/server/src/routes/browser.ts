import Bowser from 'bowser';
import type { FastifyRequest } from 'fastify';

/** The browser and system that ask, in words, so that people know their own: “Firefox on Linux”. */
export function browserOf(request: FastifyRequest): string {
  const agent = request.headers['user-agent'];
  if (!agent) return 'Unknown browser';
  const { browser, os } = Bowser.parse(agent.slice(0, 400));
  return [browser.name ?? 'Unknown browser', os.name].filter(Boolean).join(' on ').slice(0, 80);
}
