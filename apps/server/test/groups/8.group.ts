import { group } from './group';

group(8);
