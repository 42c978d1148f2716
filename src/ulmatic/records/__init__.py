"""All tables of customers, one module a word of the job, and how their rows are reached and written."""
