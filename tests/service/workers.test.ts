/** Tests that start workers of their own on the database of the tests, one after the other: a worker of one would make the runs of another. */
import './campaign';
import './sweeps';
