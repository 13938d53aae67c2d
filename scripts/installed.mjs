// After the packages are installed, however that was begun: `npm ci`, `npm install` or the first start.
import { noteInstalled } from './install.mjs';

noteInstalled();
