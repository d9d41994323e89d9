import { expose } from 'comlink';
import { RunPlanner } from './run-planner';

expose(new RunPlanner());
