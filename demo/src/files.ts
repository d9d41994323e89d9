import { details } from './details';
import { elevations } from './elevations';
import { groundFloor, upperFloor } from './plans';
import { job } from './sheets';
import { site } from './site';

/** Every file of the demo by its path in `demo/`, drawn afresh. */
export function demoFiles(): Record<string, string> {
  return {
    'tern-quay/site.dxf': site(),
    'tern-quay/ground-floor.dxf': groundFloor(),
    'tern-quay/upper-floor.dxf': upperFloor(),
    'tern-quay/elevations-sections.dxf': elevations(),
    'tern-quay/details.dxf': details(),
    'tern-quay.job.json': `${JSON.stringify(job(), null, 2)}\n`,
  };
}
