// The run screen on a page of the server.
import '../unfenced.js';
import Alpine from '/lib/alpine.esm.min.js';
import { idle } from '../idle.js';
import { Link } from './link.js';
import { runScreen } from './screen.js';

const given = id => JSON.parse(document.getElementById(id).textContent),
  { run, me, readonly, token } = document.querySelector('.run[data-run]').dataset,
  link = new Link(run, me),
  about = given('about');

link.use(token);
Alpine.data('run', () => runScreen({ run, link, about, view: given('view'), readonly: readonly === 'yes' }));
Alpine.start();
if (readonly !== 'yes') idle().then(() => link.comeHome());
