/** Addresses that scripts/test.mjs sets up; a test run without it says how to start. */
function setUp(name: string): string {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set: these tests need the database and the served app; start them with npm test`);
  return value;
}

export const appAddress = (): string => setUp('OVRAND_APP');
export const databaseAddress = (): string => setUp('OVRAND_DATABASE');
