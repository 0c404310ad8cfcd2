import { speak } from './device/language';
import './styles.css';

// What is said at the top of a module is said when it is read: the language comes first, and the program after it.
void speak().then(() => import('./app'));
