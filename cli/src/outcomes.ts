/** How a command ends: all done, stopped or partly failed, or not begun since what it was given cannot be read. */
export const DONE = 0;
export const STOPPED = 1;
export const UNREADABLE = 2;
