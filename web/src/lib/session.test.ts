/** Units belong to the site that is open: what is typed on the next one is never taken in the last one's. */
import { beforeEach, expect, it } from 'vitest';
import { reader } from './api/client';
import { session } from './session.svelte';

beforeEach(() => {
	localStorage.clear();
	session.atAllSites();
});

it('reads each site in its own units, and in others only where they were chosen for it', () => {
	session.atSite('north', 'si');
	expect([session.system, reader.units]).toEqual(['si', 'si']);
	session.setUnits('us');
	expect([session.system, reader.units]).toEqual(['us', 'us']);
	session.atSite('south', 'si');
	expect(session.system).toBe('si');
	session.atSite('west', 'us');
	expect(session.system).toBe('us');
	session.atSite('north', 'si');
	expect(session.system).toBe('us');
	session.setUnits('si');
	session.atSite('west', 'us');
	expect([session.system, reader.units]).toEqual(['us', 'us']);
});

it('keeps what was chosen for all sites to where several are shown', () => {
	session.setUnits('us');
	session.atSite('north', 'si');
	expect(session.system).toBe('si');
	session.atAllSites();
	expect(session.system).toBe('us');
});
