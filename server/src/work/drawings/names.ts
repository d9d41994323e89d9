import { drawingById, findDrawing } from '../../data/drawings';
import { notFound, Refused } from '../../errors';
import type { Services } from '../services';

/** Refuses a name that another drawing of the project has: newer versions are matched by it. */
export async function refuseTakenName({ db }: Services, id: string, name: string): Promise<void> {
  const drawing = await drawingById(db, id);
  if (!drawing) throw notFound('The drawing');
  const other = await findDrawing(db, drawing.projectId, { name });
  if (!other || other.id === id) return;
  throw new Refused(409, 'drawing.name', `Another drawing is called ${other.name}; choose another name.`);
}
