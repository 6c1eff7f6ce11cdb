import { migrate } from './migrate';

// A process of its own migrates, as the role that owns the tables; the one that serves never learns that password.
const url = process.env['INKWELL_DATABASE'];
if (!url) {
  console.error('INKWELL_DATABASE is not set. Start the workshop with: npm start');
  process.exit(1);
}
migrate(url).catch((error: Error) => {
  console.error(`The database can't be brought up to date: ${error.message}`);
  process.exit(1);
});
