import type { FastifyInstance } from 'fastify';
import { endpoint } from '../../platform/http/endpoint.js';
import { caller } from '../people/access.js';
import type { MachineService } from './service.js';

/** The machine of the shop: what it does, and what it is told. */
export function machineRoutes(app: FastifyInstance, machine: MachineService): void {
  endpoint(app, 'GET /machine', { config: { least: 'maker' } }, () => machine.view());

  endpoint(app, 'POST /machine/programs', { config: { least: 'maker', audit: 'sent a program to the machine' } }, (request) => {
    const { plan, file, instead } = request.body;
    return machine.send(plan, file, caller(request).name, instead);
  });

  endpoint(app, 'POST /machine/commands', { config: { least: 'maker', audit: 'worked the machine' } }, (request) => {
    const { command, value } = request.body;
    return machine.command(command, caller(request).name, value);
  });
}
