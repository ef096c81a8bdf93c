"""The shop's week: jobs on shared machines and hands, in the order as it is and in a better one."""
