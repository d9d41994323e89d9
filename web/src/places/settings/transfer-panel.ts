import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatProgressBar } from '@angular/material/progress-bar';
import { Store } from '@ngrx/store';
import {
  isOfficeServer,
  OFFICE_SERVER,
  transferServerSchema,
  type TransferServer,
  type TransferServerChange,
  type TransferStep,
} from '@folvex/contract';
import { bucketRegion, DEFAULT_REGION, freeId, isActiveFtp, withBucketRegion, withFtpMode } from '@folvex/core';
import { reach, type Schema } from 'yup';
import { takenInWords } from '../../deliveries/delivery-words';
import { confirm } from '../../ui/confirm';
import { ChoiceField, type Choosable } from '../../forms/choice-field';
import { TextField } from '../../forms/text-field';
import { selectIsLead, selectIsOwner } from '../../state/session/session.reducer';
import { TransferActions } from '../../state/transfer/transfer.actions';
import { transferFeature } from '../../state/transfer/transfer.reducer';

const STEP_WORDS: Readonly<Record<TransferStep['name'], string>> = {
  name: 'Name',
  connection: 'Connection',
  'host key': 'Host key',
  certificate: 'Certificate',
  'sign-in': 'Sign-in',
  folder: 'Folder',
  writing: 'Writing',
  room: 'Room',
  paper: 'Paper',
};

/** What a bucket calls user and password; others call them what they are. */
const KEY_WORDS = { user: 'Access key', secret: 'Secret key' } as const;
const SFTP_WORDS = { user: 'User', secret: 'Password or private key' } as const;
const SIGN_IN_WORDS = { user: 'User', secret: 'Password' } as const;

/** Who opens the data connections of FTP (RFC 959). */
const FTP_MODES: readonly Choosable<boolean>[] = [
  { value: false, words: 'Passive: Folvex connects' },
  { value: true, words: 'Active: the server connects' },
];

interface ServerList {
  heading: string;
  /** What the ids of its servers begin with. */
  prefix: string;
  servers: readonly TransferServer[];
  canChange: boolean;
  /** The label of the button that adds one. */
  adding: string;
  /** What is said where it is empty. */
  nobody: string;
}

/** The servers of consultants and offices that packages are delivered to, and those that take emails. */
@Component({
  selector: 'fx-transfer',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ChoiceField, MatButton, MatProgressBar, TextField],
  templateUrl: './transfer-panel.html',
  styleUrls: ['./entries.scss', './transfer-panel.scss'],
})
export class TransferPanel {
  private readonly store = inject(Store);
  private readonly dialog = inject(MatDialog);
  private readonly found = this.store.selectSignal(transferFeature.selectServers);
  private readonly servers = computed(() => this.found() ?? []);
  protected readonly tests = this.store.selectSignal(transferFeature.selectTests);
  private readonly isLead = this.store.selectSignal(selectIsLead);
  private readonly isOwner = this.store.selectSignal(selectIsOwner);
  /** Those of the project and those that all projects have, each with who may change them. */
  protected readonly lists = computed((): readonly ServerList[] => [
    {
      ...{ heading: 'For this project', prefix: '', canChange: this.isLead(), adding: 'Add a server' },
      servers: this.servers().filter((server) => !isOfficeServer(server)),
      nobody: this.isLead() ? 'None yet.' : 'None yet. A lead of the project can add one.',
    },
    {
      ...{ heading: 'For all projects', prefix: OFFICE_SERVER },
      ...{ canChange: this.isOwner(), adding: 'Add a server for all projects' },
      servers: this.servers().filter(isOfficeServer),
      nobody: this.isOwner() ? 'None yet.' : 'None yet. An owner of this installation can add one.',
    },
  ]);
  protected readonly nameSchema = reach(transferServerSchema, 'name') as Schema;
  protected readonly addressSchema = reach(transferServerSchema, 'address') as Schema;

  protected readonly ftpModes = FTP_MODES;
  protected readonly defaultRegion = DEFAULT_REGION;
  protected readonly inWords = takenInWords;

  constructor() {
    this.store.dispatch(TransferActions.serversAskedFor());
  }

  protected add({ prefix, servers }: ServerList): void {
    const name = `Server ${servers.length + 1}`;
    const set = { name, address: 'sftp://files.example/in', user: '', fingerprint: null };
    const taken = servers.map(({ id }) => ({ id: id.slice(prefix.length) }));
    this.store.dispatch(TransferActions.serverAdded({ id: prefix + freeId(name, taken), set }));
  }

  protected change({ id }: TransferServer, change: Partial<TransferServerChange>): void {
    this.store.dispatch(TransferActions.serverEdited({ id, change }));
  }

  protected test({ id }: TransferServer): void {
    this.store.dispatch(TransferActions.testAskedFor({ id }));
  }

  protected remove({ id, name }: TransferServer): void {
    confirm(this.dialog, {
      title: `Remove ${name}?`,
      lines: [
        isOfficeServer({ id })
          ? 'Packages of all projects that are delivered to it say so until another destination is chosen.'
          : 'Packages that are delivered to it say so until another destination is chosen.',
        'This cannot be undone.',
      ],
      action: 'Remove server',
    }).subscribe((yes) => {
      if (yes) this.store.dispatch(TransferActions.serverRemovalAskedFor({ id }));
    });
  }

  protected isFtp({ address }: TransferServer): boolean {
    return /^ftps?:/.test(address);
  }

  protected isBucket({ address }: TransferServer): boolean {
    return /^s3\b/.test(address);
  }

  protected isActive({ address }: TransferServer): boolean {
    return isActiveFtp(address);
  }

  protected setActive(server: TransferServer, isActive: boolean): void {
    this.change(server, { address: withFtpMode(server.address, isActive) });
  }

  protected region({ address }: TransferServer): string | undefined {
    return bucketRegion(address);
  }

  protected setRegion(server: TransferServer, region: string): void {
    this.change(server, { address: withBucketRegion(server.address, region || undefined) });
  }

  protected signInWords(server: TransferServer): Record<'user' | 'secret', string> {
    if (this.isBucket(server)) return KEY_WORDS;
    return server.address.startsWith('sftp:') ? SFTP_WORDS : SIGN_IN_WORDS;
  }

  protected keyWords({ address }: TransferServer): Record<'accept' | 'accepted', string> {
    return /^(ftps|smtps|ipps):/.test(address)
      ? { accept: 'Accept this certificate', accepted: 'Accepted certificate' }
      : { accept: 'Accept this host key', accepted: 'Accepted host key' };
  }

  protected wordsOf({ name }: TransferStep): string {
    return STEP_WORDS[name];
  }

  /** The host key or certificate that a test found and nobody has accepted; undefined where there is none. */
  protected shownKey({ id }: TransferServer): string | undefined {
    return this.tests()[id]?.find(({ fingerprint }) => fingerprint !== undefined)?.fingerprint;
  }
}
