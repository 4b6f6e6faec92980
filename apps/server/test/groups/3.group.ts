import { group } from './group';

group(3);
