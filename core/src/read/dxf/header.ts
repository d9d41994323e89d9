import { unitFromDxf, type LengthUnit } from '../../measure/units';
import { defaultDimensionStyle, takeVariable, type DimensionStyle } from './dimension-looks';
import type { GroupReader } from './groups';
import { formatOf } from './recognise';

/** Larger paper limits mean "none". */
const MAX_LIMIT = 1e6;

/** The settings of the whole drawing in the header of a DXF. */
export class Header {
  unit: LengthUnit | undefined;
  /** Whether its line types and patterns are metric ones; undefined where it does not say. */
  metric: boolean | undefined;
  lineTypeScale = 1;
  dashesOnPaper = true;
  readonly pointStyle = { mode: 0, size: 0 };
  /** Lower left and upper right corner of the paper space. */
  readonly paperLimits = [0, 0, 0, 0];
  readonly dimensions: DimensionStyle = defaultDimensionStyle();
  format = 'DXF';

  /** Reads variables, each a name (code 9) followed by its value, up to the next code 0. */
  read(groups: GroupReader): void {
    let variable = '';
    while (groups.next()) {
      const { code } = groups;
      if (code === 0) return;
      if (code === 9) variable = groups.keyword();
      else if (variable.startsWith('$DIM')) takeVariable(this.dimensions, variable, groups);
      else this.take(variable, code, groups);
    }
  }

  private take(variable: string, code: number, groups: GroupReader): void {
    switch (variable) {
      case '$ACADVER':
        if (code === 1) this.format = formatOf(groups.text().trim());
        break;
      case '$INSUNITS':
        this.unit = unitFromDxf(groups.number());
        break;
      case '$MEASUREMENT':
        this.metric = groups.number() === 1;
        break;
      case '$LTSCALE':
        this.lineTypeScale = positive(groups.number());
        break;
      case '$PSLTSCALE':
        this.dashesOnPaper = groups.number() !== 0;
        break;
      case '$PDMODE':
        this.pointStyle.mode = whole(groups.number());
        break;
      case '$PDSIZE':
        this.pointStyle.size = groups.number() || 0;
        break;
      case '$PLIMMIN':
        if (code === 10 || code === 20) this.limit(code / 10 - 1, groups.number());
        break;
      case '$PLIMMAX':
        if (code === 10 || code === 20) this.limit(code / 10 + 1, groups.number());
        break;
    }
  }

  private limit(index: number, value: number): void {
    if (Math.abs(value) < MAX_LIMIT) this.paperLimits[index] = value;
  }
}

function positive(value: number): number {
  return Number.isFinite(value) && value > 0 ? value : 1;
}

function whole(value: number): number {
  return Number.isFinite(value) ? Math.trunc(value) : 0;
}
