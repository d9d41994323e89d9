import { bucketRegion, isActiveFtp, serverUse, withBucketRegion, withFtpMode } from '../../src/index';

describe('the address of a server', () => {
  it('tells what the server is for', () => {
    const uses = ['sftp://a/b', 's3+http://a/b', 'smtps://a', 'ipp://a/b', 'a'].map(serverUse);
    expect(uses).toEqual(['server', 'server', 'mail', 'plotter', 'server']);
  });

  it('states options after its path, and keeps the others when one is set', () => {
    const address = 's3://files.example/plans?region=eu-central-1&x=1';
    expect([bucketRegion(address), isActiveFtp(address)]).toEqual(['eu-central-1', false]);
    expect(withBucketRegion(address, 'eu-north-1')).toBe('s3://files.example/plans?region=eu-north-1&x=1');
    expect(bucketRegion(withBucketRegion(address, undefined))).toBeUndefined();
    expect(withFtpMode('ftp://a/b', true)).toBe('ftp://a/b?mode=active');
    expect(withFtpMode('ftp://a/b?mode=active', false)).toBe('ftp://a/b');
    expect(['ftp://a/b?mode=active', 'ftp://a/b?mode=passive', 'ftp://a/b'].map(isActiveFtp)).toEqual([
      true,
      false,
      false,
    ]);
  });
});
