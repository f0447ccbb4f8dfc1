fire();
}
