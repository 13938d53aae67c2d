import { DeviceSchema } from './facts';
import { factRecord, known } from './record';

export const device = factRecord(
  'device',
  { device: DeviceSchema },
  {
    name: 'Device',
    test: ({ device: asked }, facts) => known(facts.device, (used) => used === asked),
    describe: ({ device: asked }) => `on a ${asked}`,
  },
);
