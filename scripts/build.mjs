import { build, installPackages } from './set-up.mjs';

installPackages();
build();
