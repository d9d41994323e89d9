/** Whether a host name is one of the loopback interface. */
export function isLoopback(name: string): boolean {
  return /^(localhost|127(\.\d{1,3}){3}|\[?::1\]?)$/.test(name);
}
