import { PLAIN_INSERT, type PlainEntity, type Style, type TextEntity } from '../../drawing/model';
import { Path } from '../../geometry/path';
import { pathEntity } from './curves';
import { arrowhead } from './leader';
import type { NameTables } from './names';
import type { Record } from './record';
import { spannedText } from './texts';

/** Codes that open and close the parts of a MULTILEADER (DXF reference, CONTEXT_DATA, LEADER, LEADER_LINE). */
const LEADER = 302;
const LEADER_END = 303;
const TEXT_OR_LINE = 304;
const LINE_END = 305;
const CONTEXT = 300;
const CONTEXT_END = 301;

interface Arm {
  /** Where its lines meet, and where the landing leads on to. */
  end: [number, number];
  dogleg: [number, number];
  doglegLength: number;
  lines: number[][];
}

interface Content {
  arms: Arm[];
  text: string;
  values: Map<number, number>;
  block: string;
}

/** MULTILEADER: its lines with arrowheads and landings, and the text or block that they lead to. */
export function readMultileader(record: Record, style: Style, handle: string, names: NameTables): PlainEntity[] {
  const content = contentOf(record);
  const value = (code: number, standard = 0): number => content.values.get(code) ?? standard;
  const shapes: PlainEntity[] = [];
  for (const { end, dogleg, doglegLength, lines } of content.arms) {
    const landing: [number, number] = [end[0] + dogleg[0] * doglegLength, end[1] + dogleg[1] * doglegLength];
    for (const line of lines) {
      const points = [...line, ...end, ...landing];
      const path = new Path();
      path.moveTo(points[0]!, points[1]!);
      for (let i = 2; i < points.length; i += 2) path.lineTo(points[i]!, points[i + 1]!);
      shapes.push(pathEntity(path, style, handle));
      if (value(140) > 0) shapes.push(arrowhead(points, value(140), style, handle));
    }
  }
  if (content.text) shapes.push(textOf(content, style, handle));
  const block = names.blockOfHandle(content.block);
  if (block) shapes.push(insertOf(content, block, style, handle));
  return shapes;
}

/** Walks the groups in order: the same codes mean other things in each part. */
function contentOf(record: Record): Content {
  const content: Content = { arms: [], text: '', values: new Map(), block: '' };
  let [inside, arm, line]: [boolean, Arm | undefined, number[] | undefined] = [false, undefined, undefined];
  for (let i = 0; i < record.count; i++) {
    const code = record.codes[i]!;
    if (code === CONTEXT) inside = true;
    else if (code === CONTEXT_END) inside = false;
    else if (!inside) continue;
    else if (code === LEADER) content.arms.push((arm = { end: [0, 0], dogleg: [0, 0], doglegLength: 0, lines: [] }));
    else if (code === LEADER_END) arm = undefined;
    else if (code === TEXT_OR_LINE && arm) arm.lines.push((line = []));
    else if (code === TEXT_OR_LINE) content.text = record.textAt(i);
    else if (code === LINE_END) line = undefined;
    else if (line) {
      if (code === 10 || code === 20) line.push(record.numberAt(i));
    } else if (arm) {
      if (code === 10) arm.end[0] = record.numberAt(i);
      else if (code === 20) arm.end[1] = record.numberAt(i);
      else if (code === 11) arm.dogleg[0] = record.numberAt(i);
      else if (code === 21) arm.dogleg[1] = record.numberAt(i);
      else if (code === 40) arm.doglegLength = record.numberAt(i);
    } else if (code === 341) content.block = record.textAt(i);
    else if (code < 300 && !content.values.has(code)) content.values.set(code, record.numberAt(i));
  }
  return content;
}

function textOf({ text, values }: Content, style: Style, handle: string): TextEntity {
  const value = (code: number, standard = 0): number => values.get(code) ?? standard;
  const turned = values.has(13) && (value(13) !== 0 || value(23) !== 0);
  return {
    ...spannedText(text, value(41, 1) || 1, style, handle),
    x: value(12),
    y: value(22),
    rotation: turned ? Math.atan2(value(23), value(13)) : value(42),
    horizontal: (['left', 'centre', 'right'] as const)[value(171, 1) - 1] ?? 'left',
    wrapWidth: Math.max(0, value(43)),
    lineSpacing: value(45, 1) || 1,
  };
}

function insertOf({ values }: Content, block: string, style: Style, handle: string): PlainEntity {
  const value = (code: number, standard = 0): number => values.get(code) ?? standard;
  return {
    ...PLAIN_INSERT,
    style,
    handle,
    block: block.toLowerCase(),
    x: value(15),
    y: value(25),
    scaleX: value(16, 1) || 1,
    scaleY: value(26, 1) || 1,
    rotation: value(46),
  };
}
