import { clientAddress, placeOf } from './client-address';
import { hostsOf, isLoopback, mayBeAsked } from './hosts';

it('believes only as many told addresses as there are proxies', () => {
  expect(clientAddress('10.0.0.1', '1.2.3.4', 0)).toBe('10.0.0.1');
  expect(clientAddress('10.0.0.1', 'made up, 1.2.3.4', 1)).toBe('1.2.3.4');
  expect(clientAddress('10.0.0.1', 'made up, 1.2.3.4, 10.0.0.9', 2)).toBe('1.2.3.4');
  expect(clientAddress('10.0.0.1', undefined, 1)).toBe('10.0.0.1');
});

it('takes a network of IPv6 for one place, however it is written', () => {
  expect(placeOf('::ffff:192.0.2.7')).toBe('192.0.2.7');
  const places = ['2001:db8::1', '2001:0db8:0:0:ffff::9', '2001:db8:0:0:1:2:3:4'].map(placeOf);
  expect(new Set(places)).toEqual(new Set(['2001:db8:0:0::/64']));
  expect(placeOf('2001:db8:0:1::1')).not.toBe(places[0]);
  expect(placeOf('::1')).toBe('0:0:0:0::/64');
});

it('answers to loopback and to the names it was given, to no other', () => {
  const alone = hostsOf(undefined, '127.0.0.1');
  for (const host of ['localhost:3000', '127.0.0.1', '[::1]:3000', '127.8.0.1:1']) {
    expect(mayBeAsked(host, alone)).toBe(true);
    expect(isLoopback(host)).toBe(true);
  }
  for (const host of ['rebound.example:3000', '192.0.2.7', 'localhost.example', undefined, '']) {
    expect(mayBeAsked(host, alone)).toBe(false);
  }
  const named = hostsOf('Bank.example, 192.0.2.7', '0.0.0.0');
  expect(mayBeAsked('bank.example:8443', named)).toBe(true);
  expect(mayBeAsked('192.0.2.7:3000', named)).toBe(true);
  expect(mayBeAsked('other.example', named)).toBe(false);
  // In a network, without a list: this machine's own names.
  expect(hostsOf(undefined, '0.0.0.0').size).toBeGreaterThan(1);
});
