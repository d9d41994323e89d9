import { details } from './details';
import { elevations } from './elevations';
import { groundFloor, upperFloor } from './plans';
import { job } from './sheets';
import { HARBOUR_MARK } from './harbour-mark';
import { site, survey } from './site';

/** Every file of the demo by its path in `demo/`, drawn afresh. */
export function demoFiles(): Record<string, string> {
  return {
    'tern-quay/site.dxf': site(),
    'tern-quay/survey.dxf': survey(),
    'tern-quay/harbour-mark.svg': HARBOUR_MARK,
    'tern-quay/ground-floor.dxf': groundFloor(),
    'tern-quay/upper-floor.dxf': upperFloor(),
    'tern-quay/elevations-sections.dxf': elevations(),
    'tern-quay/details.dxf': details(),
    'tern-quay.job.json': `${JSON.stringify(job(), null, 2)}\n`,
  };
}
