export default async function teardown() {
  await globalThis.zeitbankTestCluster.stop();
}
