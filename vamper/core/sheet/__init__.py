"""Sheet: how many fit, where does each one go, how many sheets is that?"""
