import { cubicHandles } from '../../geometry/curves';
import { Path } from '../../geometry/path';

const TOKEN = /([MmZzLlHhVvCcSsQqTtAa])|([+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)/g;
const COUNT: Readonly<Record<string, number>> = { M: 2, L: 2, H: 1, V: 1, C: 6, S: 4, Q: 4, T: 2, A: 7, Z: 0 };

/** Path data (SVG 1.1, 8.3) as a path; it ends where the data stops making sense, as the standard asks (F.2). */
export function pathOf(data: string): Path {
  const pen = new Pen();
  let command = '';
  const numbers: number[] = [];
  for (const [token, letter] of data.matchAll(TOKEN)) {
    if (letter) {
      if (numbers.length > 0) break;
      command = letter;
      if (letter.toUpperCase() === 'Z') pen.close();
      continue;
    }
    const wanted = COUNT[command.toUpperCase()] ?? 0;
    if (wanted === 0) break;
    // The two flags of an arc are single digits, which writers run together with what follows.
    const inFlags = command.toUpperCase() === 'A' && (numbers.length === 3 || numbers.length === 4);
    if (inFlags && token.length > 1) {
      for (const piece of flagPieces(token, numbers.length)) numbers.push(Number(piece));
    } else numbers.push(Number(token));
    if (numbers.some((value) => !Number.isFinite(value))) break;
    while (numbers.length >= wanted) {
      pen.draw(command, numbers.splice(0, wanted));
      if (command === 'M') command = 'L';
      if (command === 'm') command = 'l';
    }
  }
  return pen.path;
}

/** Takes one or both flags off the front of digits run together. */
function flagPieces(token: string, have: number): string[] {
  const pieces: string[] = [];
  let rest = token;
  for (let i = have; i < 5 && /^[01]/.test(rest); i++) {
    pieces.push(rest[0]!);
    rest = rest.slice(1);
  }
  return rest ? [...pieces, rest] : pieces;
}

class Pen {
  readonly path = new Path();
  private x = 0;
  private y = 0;
  private startX = 0;
  private startY = 0;
  private lastX = 0;
  private lastY = 0;
  /** Letter of the command before, whose handle the smooth commands reflect. */
  private before = '';
  private begun = false;

  close(): void {
    if (this.begun) this.path.close();
    [this.x, this.y] = [this.startX, this.startY];
    this.begun = false;
    this.before = 'Z';
  }

  draw(command: string, n: number[]): void {
    const letter = command.toUpperCase();
    const [ox, oy] = command === letter ? [0, 0] : [this.x, this.y];
    const at = (i: number): [number, number] => [n[i]! + ox, n[i + 1]! + oy];
    switch (letter) {
      case 'M':
        [this.x, this.y] = [this.startX, this.startY] = at(0);
        this.path.moveTo(this.x, this.y);
        this.begun = true;
        break;
      case 'L':
        this.lineTo(...at(0));
        break;
      case 'H':
        this.lineTo(n[0]! + ox, this.y);
        break;
      case 'V':
        this.lineTo(this.x, n[0]! + oy);
        break;
      case 'C':
        this.cubicTo(...at(0), ...at(2), ...at(4));
        break;
      case 'S':
        this.cubicTo(...this.reflected('CS'), ...at(0), ...at(2));
        break;
      case 'Q':
        this.quadraticTo(...at(0), ...at(2));
        break;
      case 'T':
        this.quadraticTo(...this.reflected('QT'), ...at(0));
        break;
      case 'A':
        this.arcTo(n, ...at(5));
        break;
    }
    this.before = letter;
  }

  private begin(): void {
    if (this.begun) return;
    this.path.moveTo(this.x, this.y);
    this.begun = true;
  }

  private lineTo(x: number, y: number): void {
    this.begin();
    this.path.lineTo(x, y);
    [this.x, this.y] = [x, y];
  }

  private cubicTo(x1: number, y1: number, x2: number, y2: number, x: number, y: number): void {
    this.begin();
    this.path.curveTo(x1, y1, x2, y2, x, y);
    [this.lastX, this.lastY, this.x, this.y] = [x2, y2, x, y];
  }

  private quadraticTo(cx: number, cy: number, x: number, y: number): void {
    this.cubicTo(...cubicHandles(this.x, this.y, cx, cy, x, y), x, y);
    [this.lastX, this.lastY] = [cx, cy];
  }

  private reflected(after: string): [number, number] {
    return after.includes(this.before) && this.before
      ? [2 * this.x - this.lastX, 2 * this.y - this.lastY]
      : [this.x, this.y];
  }

  /** An elliptical arc by its end points (SVG 1.1, F.6.5), as cubics of at most an eighth turn. */
  private arcTo(n: number[], x: number, y: number): void {
    let [rx, ry] = [Math.abs(n[0]!), Math.abs(n[1]!)];
    if (rx === 0 || ry === 0 || (x === this.x && y === this.y)) return this.lineTo(x, y);
    const phi = (n[2]! * Math.PI) / 180;
    const [cos, sin] = [Math.cos(phi), Math.sin(phi)];
    const [hx, hy] = [(this.x - x) / 2, (this.y - y) / 2];
    const [px, py] = [cos * hx + sin * hy, cos * hy - sin * hx];
    const grow = Math.sqrt(Math.max(1, (px / rx) ** 2 + (py / ry) ** 2));
    [rx, ry] = [rx * grow, ry * grow];
    const [qx, qy] = [px / rx, py / ry];
    const far = qx * qx + qy * qy;
    const factor = (n[3] === n[4] ? -1 : 1) * Math.sqrt(Math.max(0, 1 / far - 1));
    const [ux, uy] = [factor * qy, -factor * qx];
    const cx = cos * ux * rx - sin * uy * ry + (this.x + x) / 2;
    const cy = sin * ux * rx + cos * uy * ry + (this.y + y) / 2;
    const start = Math.atan2(qy - uy, qx - ux);
    let sweep = Math.atan2(-qy - uy, -qx - ux) - start;
    if (n[4] && sweep < 0) sweep += 2 * Math.PI;
    if (!n[4] && sweep > 0) sweep -= 2 * Math.PI;
    const pieces = Math.max(1, Math.ceil(Math.abs(sweep) / (Math.PI / 4)));
    const step = sweep / pieces;
    const k = (4 / 3) * Math.tan(step / 4);
    const point = (a: number, b: number): [number, number] => [
      cx + cos * rx * a - sin * ry * b,
      cy + sin * rx * a + cos * ry * b,
    ];
    for (let i = 0; i < pieces; i++) {
      const [a, b] = [start + i * step, start + (i + 1) * step];
      const [ca, sa, cb, sb] = [Math.cos(a), Math.sin(a), Math.cos(b), Math.sin(b)];
      const end = i === pieces - 1 ? ([x, y] as [number, number]) : point(cb, sb);
      this.cubicTo(...point(ca - k * sa, sa + k * ca), ...point(cb + k * sb, sb - k * cb), ...end);
    }
  }
}
