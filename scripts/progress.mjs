/** Runs a long part of the set-up, saying that it runs, for how long, and how it ended. */
export async function step(title, work) {
  const began = Date.now();
  const seconds = () => `${((Date.now() - began) / 1000).toFixed(1)} s`;
  const live = process.stdout.isTTY;
  if (!live) console.log(`- ${title} …`);
  const ticker = live ? setInterval(() => process.stdout.write(`\r- ${title} … ${seconds()} `), 200) : undefined;
  try {
    const note = await work();
    clearInterval(ticker);
    console.log(`${live ? '\r' : ''}- ${title}: ${typeof note === 'string' ? note : 'done'} (${seconds()})   `);
  } catch (error) {
    clearInterval(ticker);
    console.log(`${live ? '\r' : ''}- ${title}: failed (${seconds()})   `);
    throw error;
  }
}
