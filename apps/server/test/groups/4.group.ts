import { group } from './group';

group(4);
