import { group } from './group';

group(6);
