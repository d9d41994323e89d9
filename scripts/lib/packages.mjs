import { existsSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { attempt, show } from './commands.mjs';
import { say, Trouble } from './say.mjs';

/** Debian packages by what shows that they are there. */
export const FOR_RUNNING = { postgresql: '/usr/lib/postgresql' };
export const FOR_TESTING = {
  ...FOR_RUNNING,
  chromium: '/usr/bin/chromium',
  'poppler-utils': '/usr/bin/pdftotext',
  qpdf: '/usr/bin/qpdf',
  'mupdf-tools': '/usr/bin/mutool',
  'librsvg2-bin': '/usr/bin/rsvg-convert',
  'tango-icon-theme': '/usr/share/icons/Tango',
  'gdal-bin': '/usr/bin/ogr2ogr',
  'openssh-server': '/usr/sbin/sshd',
  vsftpd: '/usr/sbin/vsftpd',
  'nginx-light': '/usr/sbin/nginx',
  'libnginx-mod-http-dav-ext': '/usr/lib/nginx/modules/ngx_http_dav_ext_module.so',
  'cups-daemon': '/usr/sbin/cupsd',
  'cups-client': '/usr/sbin/lpadmin',
  'cups-server-common': '/usr/share/cups/templates',
  'cups-ipp-utils': '/usr/bin/ipptool',
  'python3-ezdxf': '/usr/lib/python3/dist-packages/ezdxf',
};

/** Services that packages bring along and nobody here needs: the tests start their own, on loopback. */
const SERVICES = { 'openssh-server': 'ssh', 'nginx-light': 'nginx', vsftpd: 'vsftpd', 'cups-daemon': 'cups' };
/** Asked by Debian's packages before they start a service; 101 forbids it (Debian Policy 9.3.3, policy-rc.d). */
const POLICY = '/usr/sbin/policy-rc.d';

/** Installs the Debian packages that are missing, or says which command would. */
export async function ensureDebian(wanted) {
  const missing = Object.keys(wanted).filter((name) => !existsSync(wanted[name]));
  if (missing.length === 0) return;
  const command = `apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  const mayInstall = process.getuid?.() === 0 && (await attempt('apt-get', ['--version'])).code === 0;
  if (!mayInstall) throw new Trouble(`These Debian packages are missing; run: sudo ${command}`);
  say(`Installing ${missing.join(', ')} …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  await attempt('apt-get', ['update', '-qq'], { env });
  const { code, output } = await withoutStarting(() => attempt('apt-get', command.split(' ').slice(1), { env }));
  for (const name of missing) if (SERVICES[name]) await attempt('systemctl', ['disable', '--quiet', SERVICES[name]]);
  if (code !== 0)
    throw new Trouble(`The Debian packages could not be installed (${lastLine(output)}); run: ${command}`);
}

/** Does something while packages that are installed start no services. */
async function withoutStarting(install) {
  const isOurs = !existsSync(POLICY);
  if (isOurs) writeFileSync(POLICY, '#!/bin/sh\nexit 101\n', { mode: 0o755 });
  try {
    return await install();
  } finally {
    if (isOurs) rmSync(POLICY, { force: true });
  }
}

/** Puts the npm packages of the lock file in place when they are missing or older than it. */
export async function ensureNpm(root) {
  const marker = join(root, 'node_modules', '.package-lock.json');
  const lock = join(root, 'package-lock.json');
  if (existsSync(marker) && statSync(marker).mtimeMs >= statSync(lock).mtimeMs - 1000) return;
  say('Installing npm packages …');
  const code = await show('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], { cwd: root });
  if (code !== 0) throw new Trouble('The npm packages could not be installed; run npm ci and read what it says.');
}

function lastLine(output) {
  return output.trim().split('\n').pop();
}
