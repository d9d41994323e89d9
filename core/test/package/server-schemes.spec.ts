import { addressOption, serverUse, withAddressOption } from '../../src/index';

describe('the address of a server', () => {
  it('tells what the server is for', () => {
    const uses = ['sftp://a/b', 's3+http://a/b', 'smtps://a', 'ipp://a/b', 'a'].map(serverUse);
    expect(uses).toEqual(['server', 'server', 'mail', 'plotter', 'server']);
  });

  it('states options after its path, and keeps the others when one is set', () => {
    const address = 's3://files.example/plans?region=eu-central-1&x=1';
    expect([addressOption(address, 'region'), addressOption(address, 'mode')]).toEqual(['eu-central-1', undefined]);
    expect(withAddressOption(address, 'region', 'eu-north-1')).toBe('s3://files.example/plans?region=eu-north-1&x=1');
    expect(withAddressOption('ftp://a/b', 'mode', 'active')).toBe('ftp://a/b?mode=active');
    expect(withAddressOption('ftp://a/b?mode=active', 'mode', undefined)).toBe('ftp://a/b');
  });
});
